import { FingoError } from '../errors.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { inflate, intersect, unite, wholeOf, type Rect } from '../image/rect.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { createRandom, type RandomStream } from '../numeric/random.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Progress, Task } from '../progress.ts';
import { randomCorrespondence, refineCorrespondence, type Correspondence } from './correspondence.ts';
import type { Level } from './level.ts';
import { continueLines } from './lineStart.ts';
import { membraneStart } from './membraneStart.ts';
import { cheapestSources } from './offsetField.ts';
import { peelHole } from './onionPeel.ts';
import { plausibleDonors } from './plausibleDonors.ts';
import { buildPyramid } from './pyramid.ts';
import { measureFill, type FillMeasures } from './fillMeasures.ts';
import type { FillStrategy } from './strategy.ts';
import { copySources, seamCorrection, type SeamCorrection } from './transfer.ts';
import { previewOf } from './preview.ts';
import { makeWorkImage } from './workImage.ts';
import { chargeRepeats } from './repeats.ts';
import { voteHole } from './vote.ts';

const SMALLEST_MARGIN_PX = 96;
const MOST_ROUNDS = 28;
const FEWEST_ROUNDS = 3;
const FINEST_REACH_PX = 8;

export interface FillInput {
  /** The region of the photo, as planned by `planFillRegion`. */
  image: RasterImage;
  /** Region size. Above 0: rebuilt; the result is mixed with the photo by coverage. */
  mark: Mask;
  /** Region size, optional. Only pixels at 255 may be copied from. */
  donors?: Mask;
  strategy: FillStrategy;
  seed: number;
  /** 0 = copied pixels keep their own tone, 1 = they take the tone of the place. */
  light: number;
}

export interface FillResult {
  /** The part of the region that was rebuilt. */
  box: Rect;
  /** RGBA of the box; outside the mark exactly the photo's pixels. */
  image: RasterImage;
  measures: FillMeasures;
  /** Milliseconds by stage. */
  timings: Record<string, number>;
}

/**
 * The part of a photo that a fill needs to see: the mark's box and, around it, a margin of its longest side (at least
 * 96 px), united with the donors' box where donors are given. Cost follows the hole, not the photo.
 */
export function planFillRegion(markBounds: Rect, photo: { width: number; height: number }, donorBounds?: Rect): Rect {
  const margin = Math.max(SMALLEST_MARGIN_PX, markBounds.width, markBounds.height);
  const region = donorBounds
    ? unite(inflate(markBounds, SMALLEST_MARGIN_PX), donorBounds)
    : inflate(markBounds, margin);
  return intersect(region, wholeOf(photo));
}

/** Work pixels of a region at coarseness 1: enough for structure, few enough for 7 x 7 patches to see it whole. */
const WORK_PIXELS = 250_000;

/** The whole factor by which a region of `pixels` is reduced for matching. */
export function workFactor(pixels: number, coarseness: number): number {
  const factor = Math.max(1, coarseness * Math.max(1, Math.sqrt(pixels / WORK_PIXELS)));
  // From 4 on even numbers, so that a work cell can be cut into blocks of 2 x 2 pixels.
  return factor < 3.5 ? Math.round(factor) : 2 * Math.round(factor / 2);
}

/**
 * Rebuilds the marked part of a region from the rest of it: coarse-to-fine patch completion (Wexler, Shechtman, Irani,
 * PAMI 2007) with an approximate nearest-neighbour field (Barnes et al., SIGGRAPH 2009), full-resolution pixels copied
 * through the correspondence field, seams closed in the gradient domain. Outside the mark no pixel changes.
 *
 * Throws `size-mismatch`, `nothing-marked` (mark empty) and `no-donors` (no whole patch of known, allowed pixels).
 * Deterministic for its input.
 */
export function* fillRegion(input: FillInput, kernels: Kernels): Task<FillResult> {
  const { image, mark, donors, strategy, seed, light } = input;
  requireSameSize(image, mark, 'The mark');
  if (donors) requireSameSize(image, donors, 'The donor mask');
  const box = boundsOf(mark);
  if (box.width === 0) throw new FingoError('nothing-marked', 'Nothing is marked; draw around what should change.');
  const clock = stageClock();

  yield { stage: 'Reading the surroundings', share: 0 };
  const hole = mark.data;
  const levelsAt = (by: number): Level[] => {
    kernels.reset();
    const work = makeWorkImage(image, hole, donors?.data, by, strategy.textureWeight, kernels);
    // Donors that were chosen by hand are obeyed as they are.
    const allowed = donors ? work : { ...work, usable: plausibleDonors(work) };
    return buildPyramid(allowed, strategy.heightWeight, kernels.scratch);
  };
  // Where so coarse a work image has no whole donor patch, a finer one may.
  let factor = workFactor(image.width * image.height, strategy.coarseness);
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
  clock.lap('prepare');

  const field = yield* matchCoarseToFine(levels, strategy, seed, kernels, (level) =>
    previewOf(level, factor << levels.indexOf(level), box),
  );
  clock.lap('match');
  const measures = measureFill(levels[0]!, field, strategy);

  yield { stage: 'Copying at full resolution', share: 0.8 };
  const sources = cheapestSources(levels[0]!, field, factor, image.width);
  const out = copySources(image, hole, box, sources);
  clock.lap('copy');
  yield { stage: 'Closing seams', share: 0.85 };
  const correction = light > 0 ? seamCorrection(image, hole, box, sources, kernels) : undefined;
  clock.lap('seams');
  mixIntoPhoto(image, mark, box, out, correction, light);
  clock.lap('finish');
  return { box, image: out, measures, timings: clock.timings };
}

function* matchCoarseToFine(
  levels: Level[],
  strategy: FillStrategy,
  seed: number,
  kernels: Kernels,
  preview: (level: Level) => Progress['preview'],
): Generator<Progress, Correspondence, void> {
  const coarsest = levels.length - 1;
  const random: RandomStream = createRandom(seed);
  let pass = 0;
  let field: Correspondence | undefined;
  const roundsAt = levels.map((_, k) =>
    coarsest === 0 ? 12 : Math.round(FEWEST_ROUNDS + ((MOST_ROUNDS - FEWEST_ROUNDS) * k) / coarsest),
  );
  const work = levels.map((level, k) => level.targets.length * roundsAt[k]!);
  const totalWork = work.reduce((a, b) => a + b, 0);
  let done = 0;
  for (let k = coarsest; k >= 0; k--) {
    const level = levels[k]!;
    if (field) {
      field = refineCorrespondence(levels[k + 1]!, field, level, random, kernels.scratch);
      voteHole(level, field, 1, kernels);
      kernels.measureCosts(level, field);
    } else if (strategy.start === 'lines') {
      field = continueLines(level, kernels);
    } else if (strategy.start === 'peel') {
      field = peelHole(level, kernels);
    } else {
      membraneStart(level);
      field = randomCorrespondence(level, random, kernels.scratch);
      kernels.measureCosts(level, field);
    }
    const rounds = roundsAt[k]!;
    const reach = k === 0 && coarsest > 0 ? FINEST_REACH_PX : Math.max(level.width, level.height) >> 1;
    for (let round = 0; round < rounds; round++) {
      if (strategy.spread > 0) {
        chargeRepeats(level, field, strategy.spread);
        kernels.measureCosts(level, field);
      }
      kernels.search(level, field, { reach, seed, pass: pass++, step: 1 });
      kernels.search(level, field, { reach, seed, pass: pass++, step: -1 });
      voteHole(level, field, 1 - (0.75 * round) / rounds, kernels);
      kernels.measureCosts(level, field);
      done += work[k]! / rounds;
      yield { stage: 'Matching patches', share: 0.05 + (0.75 * done) / totalWork };
    }
    yield { stage: 'Matching patches', share: 0.05 + (0.75 * done) / totalWork, preview: preview(level) };
  }
  return field!;
}

/** Adds the correction to the copied pixels and mixes them with the photo by the mark's coverage. In place. */
function mixIntoPhoto(
  image: RasterImage,
  mark: Mask,
  box: Rect,
  out: RasterImage,
  correction: SeamCorrection | undefined,
  light: number,
): void {
  const levels = new Float32Array(3);
  for (let y = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++) {
      const at = (y + box.y) * image.width + x + box.x;
      const coverage = mark.data[at]! / 255;
      if (coverage === 0) continue;
      const i = 4 * (y * box.width + x);
      for (let c = 0; c < 3; c++) levels[c] = out.data[i + c]!;
      correction?.addTo(levels, x + box.x, y + box.y, light);
      for (let c = 0; c < 3; c++) {
        const filled = Math.max(0, Math.min(255, levels[c]!));
        out.data[i + c] = filled * coverage + image.data[4 * at + c]! * (1 - coverage);
      }
      out.data[i + 3] = 255;
    }
  }
}

function stageClock(): { lap(name: string): void; timings: Record<string, number> } {
  const timings: Record<string, number> = {};
  let last = performance.now();
  return {
    lap(name) {
      const now = performance.now();
      timings[name] = now - last;
      last = now;
    },
    timings,
  };
}
