/** One way of rebuilding; takes differ by strategy first, by seed second. */
export interface FillStrategy {
  name: string;
  /** How coarse the work image is against the usual one: above 1 = larger patches in relation to the hole. */
  coarseness: number;
  start: 'peel' | 'lines' | 'membrane';
  /** Weight of the texture measure against colour, 0 = not compared. */
  textureWeight: number;
  /** Whether planes are looked for and what lies on them is rebuilt square on to them. */
  planes: boolean;
  /** How strongly donors that are used often are made dear, so that one remarkable thing is not repeated; 0 = not. */
  spread: number;
  /** What a donor costs for each row (of the finest work image) it lies above or below the place; 0 = nothing. */
  heightWeight: number;
  /** Added to the rank: how much worse than the best strategy it is on average, which its own measures do not tell. */
  handicap: number;
}

/** The strategies in the order in which takes are made: the one that is best on average first. */
export const FILL_STRATEGIES: readonly FillStrategy[] = [
  {
    name: 'by texture',
    coarseness: 1.2,
    start: 'peel',
    textureWeight: 9,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0,
  },
  {
    name: 'large pieces',
    coarseness: 1.5,
    start: 'peel',
    textureWeight: 5,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0,
  },
  {
    name: 'even',
    coarseness: 1,
    start: 'peel',
    textureWeight: 5,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0.05,
  },
  {
    name: 'largest pieces',
    coarseness: 2,
    start: 'peel',
    textureWeight: 12,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0,
  },
  {
    name: 'smooth start',
    coarseness: 1.2,
    start: 'membrane',
    textureWeight: 5,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0.35,
  },
  {
    name: 'by colour',
    coarseness: 1.2,
    start: 'peel',
    textureWeight: 2,
    planes: false,
    spread: 0,
    heightWeight: 0,
    handicap: 0.1,
  },
];
