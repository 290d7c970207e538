import { FingoError } from '../errors.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Donors, Hole, Usable } from '../mask/byteMasks.ts';
import { createRandom, type RandomStream } from '../numeric/random.ts';
import type { Progress } from '../progress.ts';
import { randomCorrespondence, refineCorrespondence, type Correspondence } from './correspondence.ts';
import { UNLIMITED, type Level } from './level.ts';
import { continueLines } from './lineStart.ts';
import { leadTexture, textureAround } from './expectedTexture.ts';
import { membraneStart } from './membraneStart.ts';
import { peelHole } from './onionPeel.ts';
import { plausibleDonors } from './plausibleDonors.ts';
import { previewOf } from './preview.ts';
import { buildPyramid } from './pyramid.ts';
import { readLevels } from './readLevels.ts';
import { chargeRepeats } from './repeats.ts';
import type { FillStrategy } from './strategy.ts';
import { voteHole } from './vote.ts';
import { makeWorkImage } from './workImage.ts';

/** What is to be matched: a picture, its hole, and from where it may be rebuilt. */
export interface MatchInput {
  image: RasterImage;
  /** One byte a pixel; non-zero = unknown, to be rebuilt. */
  hole: Hole;
  /** Where given, only pixels at 255 may be copied from. */
  donors?: Donors | undefined;
  /** Whether the donors were chosen by hand: then they are obeyed as they are. */
  chosenDonors: boolean;
  /** Whether the hole lies past the picture's edge; see `liesPastEdge`. */
  pastEdge: boolean;
  /** Whether only what is near is looked at; see `planNearRegion`. */
  isNear?: boolean;
  /** Whether it is a plane seen square on: most of its texture is lines, and it is the same up to the hole's rim. */
  onPlane: boolean;
  /** Where given, donors cost no more for their height than if they lay so many rows (of the finest work image) away. */
  rowsCharged?: number | undefined;
  /** The hole's box, for previews. */
  box: Rect;
}

/** For every patch of the finest work image that touches the hole the place that fits it best. */
export interface Match {
  level: Level;
  field: Correspondence;
  /** Picture pixels a work pixel is wide and high. */
  factor: number;
}

/** How a region is matched. The notes beside the bench on filling tell what other numbers gave. */
export const MATCH_OPTIONS = {
  /** Rounds of search and vote at the coarsest level and at the finest; in between in proportion. */
  rounds: { coarsest: 28, finest: 3 },
  /** Rounds where there is one level only. */
  roundsOfOne: 12,
  /** On the finest level places are looked for within so many px; what lies farther was found on coarser ones. */
  finestReachPx: 8,
  /**
   * The coarsest level is at least so many px wide and high. Coarse levels hold large things together; but where a place
   * is known from one side only, what lies at the rim is then drawn outward whole.
   */
  shortestSide: { between: 60, pastEdge: 90 },
  /** Width of the ring around the hole whose colours are expected inside, as a share of the hole's longest side. */
  ringShare: { inPicture: 0.2, onPlane: 0.05 },
  /** Surroundings whose luma differs from pixel to pixel by less than so many levels, on the coarsest level, are even. */
  even: 3,
  /** A plane has its own hue; what is rare at the rim in spite of it is mostly a shadow. Squared levels a unit of rarity. */
  foreignWeightOnPlane: 2500,
  /**
   * Work pixels of a place and a margin of its longest side at coarseness 1: enough for structure, few enough for 7 x 7
   * patches to see it whole.
   */
  workPixels: 250_000,
  /**
   * A place rebuilt from what is near is matched as finely as with a margin of its longest side around its box, of which
   * so much lies in the picture on average.
   */
  usualShareSeen: 0.6,
};
type MatchOptions = typeof MATCH_OPTIONS;

/** The whole factor by which a region is reduced for matching, of which `pixels` are near the hole. */
function workFactor(pixels: number, coarseness: number, { workPixels }: MatchOptions): number {
  const factor = Math.max(1, coarseness * Math.max(1, Math.sqrt(pixels / workPixels)));
  // From 4 on even numbers, so that a work cell can be cut into blocks of 2 x 2 pixels.
  return factor < 3.5 ? Math.round(factor) : 2 * Math.round(factor / 2);
}

/**
 * Coarse-to-fine patch completion of a hole in its work image (Y. Wexler, E. Shechtman, M. Irani: Space-Time Completion
 * of Video, PAMI, 2007). Throws `no-donors` where there is no whole patch of known, allowed pixels. Progress runs from
 * 0 to 1. What it returns lives in the kernels' scratch.
 */
export function* matchRegion(
  { image, hole, donors, chosenDonors, pastEdge, isNear, onPlane, rowsCharged, box }: MatchInput,
  strategy: FillStrategy,
  seed: number,
  kernels: Kernels,
  options = MATCH_OPTIONS,
): Generator<Progress, Match, void> {
  let giveBack = kernels.scratch.hold();
  const levelsAt = (by: number): Level[] => {
    giveBack();
    giveBack = kernels.scratch.hold();
    const work = makeWorkImage(image, hole, donors, by, strategy.textureWeight, kernels);
    const ringShare = onPlane ? options.ringShare.onPlane : options.ringShare.inPicture;
    const plausible = (): Usable => (chosenDonors ? work.usable : plausibleDonors(work, ringShare, kernels));
    const shortestSide = pastEdge ? options.shortestSide.pastEdge : options.shortestSide.between;
    const { heightWeight } = strategy;
    const most = rowsCharged === undefined ? UNLIMITED : heightWeight * rowsCharged;
    return buildPyramid(work, heightWeight, shortestSide, kernels, most, plausible);
  };
  // Where so coarse a work image has no whole donor patch, a finer one may.
  // Past the edge the region is larger; what is rebuilt is seen as sharply as elsewhere.
  const around = pastEdge ? inflate(box, Math.max(box.width, box.height)) : wholeOf(image);
  const near = intersect(around, wholeOf(image));
  const seen = near.width * near.height;
  const { width, height } = inflate(box, Math.max(box.width, box.height));
  const pixels = isNear ? Math.max(seen, options.usualShareSeen * width * height) : seen;
  let factor = workFactor(pixels, strategy.coarseness, options);
  let levels = levelsAt(factor);
  while (levels.length === 0 && factor > 1) {
    factor = Math.ceil(factor / 2);
    levels = levelsAt(factor);
  }
  if (levels.length === 0) {
    throw new FingoError(
      'no-donors',
      'There is too little around the mark to rebuild it from; make the mark smaller or allow a larger donor area.',
    );
  }
  yield { stage: 'Matching patches', share: 0.05 };
  const preview = (level: Level) => previewOf(level, factor << levels.indexOf(level), box);
  // Donors chosen by hand are obeyed, and past the edge the rim says little of what goes on there.
  const mindsRim = !chosenDonors && !pastEdge;
  const foreignWeight = !mindsRim ? 0 : onPlane ? options.foreignWeightOnPlane : strategy.foreignWeight;
  // Known from one side only, a smooth surface is that side carried on flat, and whatever is flat fits it.
  const { startWhereEven } = strategy;
  const isEven = startWhereEven && textureAround(levels[levels.length - 1]!) < options.even * strategy.textureWeight;
  const wanted = isEven ? startWhereEven : strategy.start;
  const start = pastEdge && wanted === 'membrane' ? 'peel' : wanted;
  const field = yield* matchCoarseToFine(
    levels,
    { ...strategy, foreignWeight, start },
    seed,
    { onPlane, pastEdge },
    options,
    kernels,
    preview,
  );
  return { level: levels[0]!, field, factor };
}

function* matchCoarseToFine(
  levels: Level[],
  strategy: FillStrategy,
  seed: number,
  { onPlane, pastEdge }: Pick<MatchInput, 'onPlane' | 'pastEdge'>,
  { rounds: { coarsest: most, finest: fewest }, roundsOfOne, finestReachPx }: MatchOptions,
  kernels: Kernels,
  preview: (level: Level) => Progress['preview'],
): Generator<Progress, Correspondence, void> {
  const coarsest = levels.length - 1;
  const random: RandomStream = createRandom(seed);
  let pass = 0;
  let field: Correspondence | undefined;
  const roundsAt = levels.map((_, k) =>
    coarsest === 0 ? roundsOfOne : Math.round(fewest + ((most - fewest) * k) / coarsest),
  );
  const work = levels.map((level, k) => level.targets.length * roundsAt[k]!);
  const totalWork = work.reduce((a, b) => a + b, 0);
  let done = 0;
  // A hole is kept as lively as what lies around it; lines on a plane are drawn sharp by themselves.
  const { foreign, texture } = readLevels(levels, strategy.foreignWeight, !onPlane, kernels);
  const across = levels[coarsest]!.width;
  for (let k = coarsest; k >= 0; k--) {
    const level = levels[k]!;
    level.bias.set(foreign[k]!);
    const ownCosts = kernels.scratch.ints(level.bias.length);
    ownCosts.set(level.bias);
    if (field) {
      field = refineCorrespondence(levels[k + 1]!, field, level, random, kernels.scratch);
      voteHole(level, field, 1, kernels);
    } else if (strategy.start === 'lines') {
      field = continueLines(level, kernels);
    } else if (strategy.start === 'peel') {
      field = peelHole(level, kernels);
    } else {
      membraneStart(level);
      field = randomCorrespondence(level, random, kernels.scratch);
    }
    if (!onPlane) leadTexture(level, texture, across, coarsest - k, pastEdge);
    kernels.measureCosts(level, field);
    const rounds = roundsAt[k]!;
    const reach = k === 0 && coarsest > 0 ? finestReachPx : Math.max(level.width, level.height) >> 1;
    for (let round = 0; round < rounds; round++) {
      if (strategy.spread > 0) {
        chargeRepeats(level, field, strategy.spread, ownCosts, kernels);
        kernels.measureCosts(level, field);
      }
      kernels.search(level, field, { reach, seed, pass: pass++, step: 1 });
      kernels.search(level, field, { reach, seed, pass: pass++, step: -1 });
      voteHole(level, field, 1 - (0.75 * round) / rounds, kernels);
      if (!onPlane) leadTexture(level, texture, across, coarsest - k, pastEdge);
      kernels.measureCosts(level, field);
      done += work[k]! / rounds;
      yield { stage: 'Matching patches', share: 0.05 + (0.95 * done) / totalWork };
    }
    yield { stage: 'Matching patches', share: 0.05 + (0.95 * done) / totalWork, preview: preview(level) };
  }
  return field!;
}
