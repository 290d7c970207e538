import type { Size } from '../image/rect.ts';
import type { Task } from '../progress.ts';
import { adjustBundle, deviationsOf } from './adjustBundle.ts';
import type { Camera } from './camera.ts';
import { groupFrames, strengthOf, type Overlap } from './overlaps.ts';
import { refineOverlap, type GreyFrame } from './refineOverlap.ts';
import { startCameras } from './startCameras.ts';

/** Deviations beyond these count less, px of a frame 2000 px wide: of found features, and of points placed finely. */
const FEATURE_OUTLIER_PX = 2.5;
const FINE_OUTLIER_PX = 0.4;
/** Pairs further apart than this after fine placing are things that moved. */
const MOVED_PX = 2.5;
/** Fewer points than this say nothing about the lens. */
const FEWEST_FOR_BEND = 300;
const FINE_ROUNDS = 2;

/** How frames that hang together were taken. */
export interface Alignment {
  /** The frames, by index, that hang together. */
  frames: number[];
  /** By index of all frames; those of other frames mean nothing. */
  cameras: Camera[];
  /** What the frames have in common, points placed finely, those that moved left out. */
  overlaps: Overlap[];
  /** Mean deviation of the points of each frame, px of a frame 2000 px wide; by index of all frames. */
  errorsPx: number[];
}

/**
 * Finds how frames were taken that overlap: a first guess from features, all cameras adjusted together, points placed
 * finely by their surroundings as the cameras show them, adjusted again. The middle of the strongest frames looks
 * ahead; nothing is levelled yet.
 *
 * @param points features of each frame, px of the full frame
 * @param focalShare focal length by the frame's longer side, where the file tells it
 */
export function* alignFrames(
  sizes: readonly Size[],
  overlaps: readonly Overlap[],
  points: readonly Float32Array[],
  greys: readonly GreyFrame[],
  focalShare?: number,
): Task<Alignment> {
  const [group = []] = groupFrames(sizes.length, overlaps);
  const within = overlaps.filter(({ a, b }) => group.includes(a) && group.includes(b));
  const root = rootOf(group, within);
  const frames = [root, ...group.filter((frame) => frame !== root)];
  const starts = [startCameras(sizes, within, root)];
  if (focalShare) starts.push(startCameras(sizes, within, root, focalShare));
  const tried = starts.map((start) => adjustBundle(start, sizes, within, frames, FEATURE_OUTLIER_PX, false));
  const cost = (cameras: Camera[]): number =>
    within.reduce((sum, o) => sum + meanOf(deviationsOf(o, cameras, sizes)), 0);
  let cameras = tried.reduce((best, next) => (cost(next) < cost(best) ? next : best));
  let fine: Overlap[] = within;
  for (let round = 0; round < FINE_ROUNDS; round++) {
    fine = [];
    for (const [at, rough] of within.entries()) {
      yield { stage: 'Placing points finely', share: (round + at / within.length) / FINE_ROUNDS };
      const { a, b } = rough;
      const exact = refineOverlap(a, b, points[a]!, cameras, sizes, greys);
      // Where little can be placed finely (little detail, much motion), what was found must do.
      fine.push(strengthOf(exact) >= Math.min(20, strengthOf(rough)) ? exact : rough);
    }
    const count = fine.reduce((sum, overlap) => sum + strengthOf(overlap), 0);
    const adjusted = adjustBundle(cameras, sizes, fine, frames, FINE_OUTLIER_PX, count >= FEWEST_FOR_BEND);
    fine = fine.map((overlap) => withoutMoved(overlap, deviationsOf(overlap, adjusted, sizes)));
    cameras = adjustBundle(adjusted, sizes, fine, frames, FINE_OUTLIER_PX, count >= FEWEST_FOR_BEND);
  }
  return { frames: group, cameras, overlaps: fine, errorsPx: errorsOf(fine, cameras, sizes) };
}

/** The frame from which the farthest other is nearest, counted in overlaps; of several, the most strongly tied. */
function rootOf(group: readonly number[], overlaps: readonly Overlap[]): number {
  const steps = (root: number): number => {
    const distance = new Map([[root, 0]]);
    const queue = [root];
    for (const frame of queue) {
      for (const { a, b } of overlaps) {
        const other = a === frame ? b : b === frame ? a : -1;
        if (other < 0 || distance.has(other)) continue;
        distance.set(other, distance.get(frame)! + 1);
        queue.push(other);
      }
    }
    return Math.max(...distance.values());
  };
  const ties = (frame: number): number =>
    overlaps.reduce((sum, o) => sum + (o.a === frame || o.b === frame ? strengthOf(o) : 0), 0);
  const ranked = group.map((frame) => ({ frame, steps: steps(frame), ties: ties(frame) }));
  ranked.sort((x, y) => x.steps - y.steps || y.ties - x.ties);
  return ranked[0]!.frame;
}

function withoutMoved(overlap: Overlap, deviations: Float64Array): Overlap {
  const kept = [...deviations.keys()].filter((k) => deviations[k]! < MOVED_PX);
  // Nothing left means that the cameras are wrong there, not that everything moved.
  if (kept.length < 4) return overlap;
  const pick = (points: Float64Array) => Float64Array.from(kept.flatMap((k) => [points[2 * k]!, points[2 * k + 1]!]));
  return { ...overlap, from: pick(overlap.from), to: pick(overlap.to) };
}

const meanOf = (values: Float64Array): number =>
  values.reduce((sum, value) => sum + Math.min(50, value), 0) / Math.max(1, values.length);

function errorsOf(overlaps: readonly Overlap[], cameras: readonly Camera[], sizes: readonly Size[]): number[] {
  return sizes.map((_, frame) => {
    const own = overlaps.filter(({ a, b }) => a === frame || b === frame);
    const all = own.flatMap((overlap) => [...deviationsOf(overlap, cameras, sizes)]);
    return meanOf(Float64Array.from(all));
  });
}
