import { solveGrid } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { squaredDistanceTo } from '../mask/distanceTransform.ts';
import { MAX_COMPONENTS } from './colourMixture.ts';
import { mixtureFor } from './fitMixture.ts';
import { describePixels, type SubjectScene } from './subjectScene.ts';
import { logDensities } from './weighPixels.ts';
import { bytesBy, floatsBy } from '../numeric/filled.ts';

/** Strokes are obeyed. */
const STROKE_WEIGHT = 1000;
/** How firmly what was found holds out against what lies beside it. */
const FIRMNESS = 0.3;
/** As a share of the mark's size (square root of its area): so far strokes speak for what is like them. */
const STROKE_REACH = 0.2;
/** So many times (logarithm) less likely than what was stroked itself, a pixel counts e times less. */
const LIKENESS_FALLOFF = 1.5;
const MAX_LIKENESS = 6;
/** One component for so many stroked pixels, up to the usual number. */
const STROKED_A_COMPONENT = 20;

/** The random walker's probabilities, for the pulls (`extra`) and what each pixel is pulled to times its pull. */
function walk(
  { width, height, marked, said, edges: { right, down } }: SubjectScene,
  extra: Float32Array,
  rightSide: Float32Array,
  kernels: Kernels,
): Float32Array {
  kernels.reset();
  const solved = solveGrid({ width, height, right, down, extra }, rightSide, kernels, 5e-3, 10);
  return floatsBy(marked.length, (i) => (marked[i]! >= 0.5 || said[i] === 1 ? solved[LANES * i]! : 0));
}

/**
 * What was found, corrected by strokes: they are obeyed, and so is what is like them and lies near them; the rest stays
 * as it was.
 */
export function correctByStrokes(scene: SubjectScene, found: Float32Array, kernels: Kernels): Float32Array {
  const { width, height, marked, said, edges } = scene;
  const n = width * height;
  const likeSubject = likeness(scene, 1, kernels);
  const likeGround = likeness(scene, 2, kernels);
  const extra = edges.toUnmarked.slice();
  const rightSide = new Float32Array(n * LANES);
  for (let i = 0; i < n; i++) {
    if (said[i]) {
      extra[i]! += STROKE_WEIGHT;
      rightSide[LANES * i] = said[i] === 1 ? STROKE_WEIGHT : 0;
    } else if (marked[i]! >= 0.5) {
      const subject = likeSubject[i]!;
      extra[i]! += FIRMNESS;
      rightSide[LANES * i] = (FIRMNESS * (found[i]! + subject)) / (1 + subject + likeGround[i]!);
    }
  }
  return walk(scene, extra, rightSide, kernels);
}

/**
 * How much each marked pixel is like what strokes of one side cover, the farther the less: 1 beside them with a colour
 * like their least likely ones, e^6 at most.
 */
function likeness(scene: SubjectScene, side: number, kernels: Kernels): Float32Array {
  const { width, height, marked, picks, said } = scene;
  const like = new Float32Array(width * height);
  const stroked: number[] = [];
  said.forEach((value, i) => value === side && stroked.push(i));
  const components = Math.min(MAX_COMPONENTS, Math.floor(stroked.length / STROKED_A_COMPONENT));
  if (components === 0) return like;
  const features = describePixels(scene, 0);
  const model = mixtureFor(features, stroked, kernels, { components });
  const own = new Float32Array(logDensities(model, features, stroked, kernels)).sort();
  const least = own[Math.floor(0.05 * own.length)]!;
  const strokes = { width, height, data: bytesBy(said.length, (i) => (said[i] === side ? 255 : 0)) };
  const squaredDistance = squaredDistanceTo(strokes, true);
  const squaredReach = STROKE_REACH ** 2 * marked.reduce((sum, share) => sum + share, 0);
  const densities = logDensities(model, features, picks, kernels);
  picks.forEach((i, k) => {
    const ratio = Math.min(MAX_LIKENESS, (densities[k]! - least) / LIKENESS_FALLOFF);
    // So unlikely that it can't be told any more.
    like[i] = Number.isNaN(ratio) ? 0 : Math.exp(ratio - squaredDistance[i]! / squaredReach);
  });
  return like;
}
