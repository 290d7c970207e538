/** The typefaces that ship with Fingo, the first one where none is named. */
export const FACES = ['Hanken Grotesk', 'Hanken Grotesk bold', 'Lora', 'Lora italic', 'Lora bold'] as const;
export type FaceName = (typeof FACES)[number];

/** A typeface that ships by its name; the first one for a name that is not known. */
export const faceNamed = (name: string): FaceName => FACES.find((face) => face === name) ?? FACES[0];
