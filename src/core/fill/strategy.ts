/** One way of rebuilding; takes differ by strategy first, by seed second. */
export interface FillStrategy {
  name: string;
  /** How coarse the work image is against the usual one: above 1 = larger patches in relation to the hole. */
  coarseness: number;
  start: 'peel' | 'membrane';
  /** Weight of the texture measure against colour, 0 = not compared. */
  textureWeight: number;
}

/** The strategies in the order in which takes are made: the one that is best on average first. */
export const FILL_STRATEGIES: readonly FillStrategy[] = [
  { name: 'even', coarseness: 1, start: 'peel', textureWeight: 5 },
  { name: 'large pieces', coarseness: 1.5, start: 'peel', textureWeight: 5 },
  { name: 'smooth start', coarseness: 1, start: 'membrane', textureWeight: 5 },
  { name: 'fine pieces', coarseness: 0.7, start: 'peel', textureWeight: 5 },
  { name: 'by texture', coarseness: 1.2, start: 'peel', textureWeight: 9 },
  { name: 'by colour', coarseness: 1.2, start: 'membrane', textureWeight: 2 },
];
