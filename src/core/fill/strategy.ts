import { createRandom } from '../numeric/random.ts';

/** One way of rebuilding; takes differ by strategy first, by seed second. */
export interface FillStrategy {
  name: string;
  /** How coarse the work image is against the usual one: above 1 = larger patches in relation to the hole. */
  coarseness: number;
  /** What the hole is first filled with; past the picture's edge, where a membrane tells nothing, a peel takes its place. */
  start: 'peel' | 'lines' | 'membrane';
  /** The same where the surroundings are even: no lines are there to go on, and what is begun by chance grows. */
  startWhereEven?: 'membrane';
  /** Weight of the texture measure against colour, 0 = not compared. */
  textureWeight: number;
  /**
   * From how far around a place between known ones it is rebuilt: what is near mostly fits best; lines are better drawn on,
   * and a line amid smooth ground is found again, from farther away.
   */
  looks: 'near' | 'far';
  /** Whether planes are looked for between known places, and what lies on them is rebuilt square on to them. */
  planes: boolean;
  /**
   * Whether what is seen to go on through a hole is drawn before the rest is filled: what repeats (`carryOn`), then lines
   * (`runOnLines`) beside it, or the other way round.
   */
  runsOn: 'not' | 'repeats first' | 'lines first';
  /** How strongly donors that are used often are made dear, so that one remarkable thing is not repeated; 0 = not. */
  spread: number;
  /** What a donor costs for each row (of the finest work image) it lies above or below the place; 0 = nothing. */
  heightWeight: number;
  /** The same for each row of a plane that has rows, such as boards or courses of bricks. */
  planeRowWeight: number;
  /** By what factors these are others on a plane. */
  onPlane?: Pick<FillStrategy, 'coarseness' | 'textureWeight' | 'spread'>;
  /** What a donor costs for colours that are rare along the hole's rim; see `foreignCosts`. */
  foreignWeight: number;
  /** Added to the rank: how much worse a strategy is than others on average, which its own measures do not tell. */
  handicap: number;
  /** The same past the picture's edge, where the measures tell little. */
  handicapPastEdge: number;
}

const USUAL = {
  start: 'peel',
  looks: 'near',
  planes: false,
  runsOn: 'not',
  spread: 0,
  heightWeight: 0,
  planeRowWeight: 300,
  foreignWeight: 0,
  handicap: 0,
  handicapPastEdge: 0,
} as const;

const LARGE_PIECES: FillStrategy = {
  ...USUAL,
  name: 'large pieces',
  coarseness: 2.8,
  textureWeight: 12,
  runsOn: 'repeats first',
  spread: 0.3,
  heightWeight: 400,
  foreignWeight: 4000,
  handicap: -0.25,
};
const ALONG_PLANES: FillStrategy = {
  ...USUAL,
  name: 'along planes',
  coarseness: 1.5,
  textureWeight: 9,
  planes: true,
  planeRowWeight: 1000,
  spread: 0.1,
  handicap: 0.2,
  handicapPastEdge: 0.1,
};

const MEDIUM_PIECES: FillStrategy = {
  ...USUAL,
  name: 'medium pieces',
  coarseness: 2,
  textureWeight: 9,
  start: 'membrane',
  spread: 0.2,
  heightWeight: 200,
  handicap: 0.3,
  handicapPastEdge: 0.2,
};

/** Strong lines first, then what else: often the best amid structure. */
const LARGE_ALONG_LINES: FillStrategy = {
  ...LARGE_PIECES,
  name: 'large pieces, lines first',
  start: 'lines',
  startWhereEven: 'membrane',
  looks: 'far',
  runsOn: 'not',
  handicap: 0.15,
  handicapPastEdge: 0.3,
};

/** Both in one, for where only one take is made: on planes what is best there, elsewhere what is best on average. */
export const PLANES_ELSE_LARGE_PIECES: FillStrategy = {
  ...LARGE_PIECES,
  name: 'planes, else large pieces',
  planes: true,
  planeRowWeight: ALONG_PLANES.planeRowWeight,
  onPlane: {
    coarseness: ALONG_PLANES.coarseness / LARGE_PIECES.coarseness,
    textureWeight: ALONG_PLANES.textureWeight / LARGE_PIECES.textureWeight,
    spread: ALONG_PLANES.spread / LARGE_PIECES.spread,
  },
};

/** The strategies in the order in which takes are made: the one that is best on average first. */
export const FILL_STRATEGIES: readonly FillStrategy[] = [
  LARGE_PIECES,
  ALONG_PLANES,
  {
    ...USUAL,
    name: 'by colour and form',
    coarseness: 2.8,
    textureWeight: 6,
    planes: true,
    heightWeight: 200,
    spread: 0.1,
    handicap: 0.1,
  },
  {
    ...USUAL,
    name: 'lines first',
    coarseness: 2,
    textureWeight: 12,
    start: 'lines',
    looks: 'far',
    runsOn: 'lines first',
    spread: 0.3,
    heightWeight: 200,
    handicap: -0.1,
    handicapPastEdge: 0.25,
  },
  {
    ...USUAL,
    name: 'fine pieces',
    coarseness: 1.5,
    textureWeight: 5,
    spread: 0.1,
    heightWeight: 100,
    foreignWeight: 4000,
    handicapPastEdge: 0.2,
  },
  LARGE_ALONG_LINES,
  PLANES_ELSE_LARGE_PIECES,
  // Not made any more; recipes may still name them.
  MEDIUM_PIECES,
  { ...MEDIUM_PIECES, name: 'smooth start' },
  { ...USUAL, name: 'even', coarseness: 1, textureWeight: 5 },
  { ...USUAL, name: 'by texture', coarseness: 1.2, textureWeight: 9 },
  { ...USUAL, name: 'largest pieces', coarseness: 2, textureWeight: 12 },
  { ...USUAL, name: 'by colour', coarseness: 1.2, textureWeight: 2 },
];

/** A strategy as it is used on a plane. */
export function onPlaneOf(strategy: FillStrategy): FillStrategy {
  const { onPlane } = strategy;
  if (!onPlane) return strategy;
  return {
    ...strategy,
    coarseness: strategy.coarseness * onPlane.coarseness,
    textureWeight: strategy.textureWeight * onPlane.textureWeight,
    spread: strategy.spread * onPlane.spread,
  };
}

/** A strategy as it is used with a seed: the first as it stands, others somewhere around it, so that takes differ. */
export function varied(strategy: FillStrategy, seed: number): FillStrategy {
  if (seed === 1) return strategy;
  const random = createRandom(seed);
  const wander = (octaves: number): number => 2 ** (octaves * (random.below(2001) / 1000 - 1));
  return {
    ...strategy,
    coarseness: strategy.coarseness * wander(0.6),
    textureWeight: strategy.textureWeight * wander(0.8),
    heightWeight: Math.round(strategy.heightWeight * wander(1.5)),
    planeRowWeight: Math.round(strategy.planeRowWeight * wander(1)),
  };
}
