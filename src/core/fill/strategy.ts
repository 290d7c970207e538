/** One way of rebuilding; takes differ by strategy first, by seed second. */
export interface FillStrategy {
  name: string;
  /** The region is reduced to about this many work pixels: fewer = larger patches in relation to the hole. */
  workPixels: number;
  start: 'peel' | 'membrane';
  /** Weight of the texture measure against colour, 0 = not compared. */
  textureWeight: number;
}

/** The strategies in the order in which takes are made: the one that is best on average first. */
export const FILL_STRATEGIES: readonly FillStrategy[] = [
  { name: 'even', workPixels: 250_000, start: 'peel', textureWeight: 5 },
  { name: 'large pieces', workPixels: 110_000, start: 'peel', textureWeight: 5 },
  { name: 'smooth start', workPixels: 250_000, start: 'membrane', textureWeight: 5 },
  { name: 'fine pieces', workPixels: 500_000, start: 'peel', textureWeight: 5 },
  { name: 'by texture', workPixels: 180_000, start: 'peel', textureWeight: 9 },
  { name: 'by colour', workPixels: 180_000, start: 'membrane', textureWeight: 2 },
];
