/** The old place stays as it is, so takes differ in how much of it comes along and in what counts as the subject. */
interface PlacingStrategy {
  name: string;
  closenessShift: number;
  generosity: number;
}

export const PLACING_STRATEGIES: readonly PlacingStrategy[] = [
  { name: 'as set', closenessShift: 0, generosity: 0 },
  { name: 'subject only', closenessShift: -100, generosity: 0 },
  { name: 'with its ground', closenessShift: 40, generosity: 0 },
  { name: 'generous outline', closenessShift: -100, generosity: 1 },
  { name: 'strict outline', closenessShift: -25, generosity: -1 },
];
