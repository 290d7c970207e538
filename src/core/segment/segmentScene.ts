import { ARCS, minimumCut } from '../numeric/minimumCut.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { LOWEST_DENSITY, MAX_COMPONENTS, type ColourMixture } from './colourMixture.ts';
import { mixtureFor } from './fitMixture.ts';
import type { Strangeness } from './strangeness.ts';
import type { SubjectScene } from './subjectScene.ts';
import { logDensities } from './weighPixels.ts';

const ROUNDS = 3;
/** What a ground in shadow is less likely than a ground in the light (natural logarithm). */
const SHADE_PENALTY = 3;
const TRUST_IN_COLOUR = 0.6;
const DEPTH_WEIGHT = 2.5;
const NEUTRAL_DEPTH = 0.6;
/** No pixel by itself speaks louder (natural logarithm of a likelihood ratio). */
const MAX_EVIDENCE = 6;
/** What a step of the cut costs between like pixels, in the same measure. */
const OUTLINE_COST = 6;
/** How much the outline counts where segmentations are compared, for its length in sides of the mark. */
const OUTLINE_SHARE = 0.05;
/** A stroked pixel teaches as much as so many others. */
const STROKE_TRUST = 6;
/** What strokes say is obeyed. */
const BOUND = 1000;
/** Costs are whole multiples of one over this, so that flows add up exactly. */
const UNITS = 256;

/** What is subject, and how well its and the ground's colours fit: lower is better. */
export interface Segmentation {
  /** 1 where it is subject, 0 elsewhere. */
  subject: Float32Array;
  cost: number;
}

/**
 * Subject and ground from a first guess (above 0.5 = subject), by learning two mixtures and cutting anew in turns
 * (C. Rother et al.: GrabCut, SIGGRAPH, 2004). Beside colours and places the depth in the mark counts, and
 * evidence for ground (`explained`, 0 or more, see `explainedByRing`) and against subject (`known`, 0 or less, see
 * `unlikeTheRest`). What strokes say is obeyed, and teaches.
 */
export function segmentScene(
  scene: SubjectScene,
  strange: Strangeness,
  explained: Float32Array,
  start: Float32Array,
  generosity: number,
  kernels: Kernels,
  known?: Float32Array,
): Segmentation {
  const { width, height, features, picks, depth } = scene;
  const n = width * height;
  let found: Segmentation = { subject: start, cost: Infinity };
  for (let round = 0; round < ROUNDS; round++) {
    const before = found.subject;
    const models = learn(scene, strange, found.subject, kernels);
    if (!models) break;
    const [likeSubject, likeGround] = [models.subject, models.ground].map((model) =>
      logDensities(model, features, picks, kernels),
    ) as [Float64Array, Float64Array];
    const evidence = new Float32Array(n);
    const asSubject = new Float32Array(n);
    const asGround = new Float32Array(n);
    for (let k = 0; k < picks.length; k++) {
      const i = picks[k]!;
      asSubject[i] = Math.max(LOWEST_DENSITY, likeSubject[k]!);
      asGround[i] = Math.max(LOWEST_DENSITY, strange.shaded[i]! - SHADE_PENALTY, likeGround[k]!);
      evidence[i] =
        TRUST_IN_COLOUR * (asSubject[i]! - asGround[i]!) +
        DEPTH_WEIGHT * (1 - Math.exp(-depth[i]!) - NEUTRAL_DEPTH) -
        explained[i]! +
        1.5 * generosity +
        (known?.[i] ?? 0);
    }
    const subject = cutSubject(scene, evidence);
    found = { subject, cost: costOf(scene, subject, asSubject, asGround) };
    // Nothing more comes of learning from the same again.
    if (subject.every((value, i) => value === before[i])) break;
  }
  return found;
}

/** The segmentation of least cost for the evidence at each pixel (above 0 = subject). */
function cutSubject({ width, marked, said, edges }: SubjectScene, evidence: Float32Array): Float32Array {
  const n = evidence.length;
  const neighbours = new Int32Array(ARCS * n).fill(-1);
  const capacities = new Float32Array(ARCS * n);
  const terminals = new Float32Array(n);
  /** `arc` leads from `i` to `j`, the one after it back. */
  const join = (i: number, j: number, arc: number, weight: number): void => {
    if (weight === 0) return;
    neighbours[ARCS * i + arc] = j;
    neighbours[ARCS * j + arc + 1] = i;
    capacities[ARCS * i + arc] = capacities[ARCS * j + arc + 1] = Math.ceil(UNITS * OUTLINE_COST * weight);
  };
  for (let i = 0; i < n; i++) {
    if (marked[i]! < 0.5) continue;
    join(i, i + 1, 0, edges.right[i]!);
    join(i, i + width, 2, edges.down[i]!);
    const own = Math.max(-MAX_EVIDENCE, Math.min(MAX_EVIDENCE, evidence[i]!));
    const bound = said[i] === 1 ? BOUND : said[i] === 2 ? -BOUND : own - OUTLINE_COST * edges.toUnmarked[i]!;
    terminals[i] = Math.round(UNITS * bound);
  }
  return new Float32Array(minimumCut(neighbours, capacities, terminals));
}

/** What the mixtures leave unexplained, a marked pixel, and a share of the outline's cost. */
function costOf(
  { width, marked, edges }: SubjectScene,
  subject: Float32Array,
  asSubject: Float32Array,
  asGround: Float32Array,
): number {
  let [unlikely, outline, area] = [0, 0, 0];
  for (let i = 0; i < subject.length; i++) {
    if (marked[i]! < 0.5) continue;
    area++;
    unlikely -= subject[i] ? asSubject[i]! : asGround[i]!;
    if (subject[i]) outline += edges.toUnmarked[i]!;
    if (subject[i] !== subject[i + 1]) outline += edges.right[i]!;
    if (subject[i] !== subject[i + width]) outline += edges.down[i]!;
  }
  return unlikely / area + (OUTLINE_SHARE * outline) / Math.sqrt(area);
}

/**
 * Both mixtures from what is held for subject and ground now. What the ring has plenty of hardly teaches the subject's,
 * lest a piece of ground, once taken for it, stays.
 */
function learn(
  { width, height, features, marked, ring, said, stride }: SubjectScene,
  { likelihood, low, usual }: Strangeness,
  found: Float32Array,
  kernels: Kernels,
): { subject: ColourMixture; ground: ColourMixture } | undefined {
  const subject = { samples: [] as number[], weights: [] as number[] };
  const ground = { samples: [] as number[], weights: [] as number[] };
  for (let i = 0; i < width * height; i += stride) {
    const isSubject = said[i] ? said[i] === 1 : marked[i]! >= 0.5 && found[i]! > 0.5;
    const side = isSubject ? subject : marked[i]! >= 0.5 || ring[i] ? ground : undefined;
    if (!side) continue;
    side.samples.push(i);
    const trust = Math.max(0.02, Math.min(1, (usual - likelihood[i]!) / Math.max(1e-6, usual - low)));
    side.weights.push(said[i] ? STROKE_TRUST : isSubject ? trust : 1);
  }
  if (subject.samples.length < 5 * MAX_COMPONENTS || ground.samples.length < 5 * MAX_COMPONENTS) return undefined;
  return {
    subject: mixtureFor(features, subject.samples, kernels, subject),
    ground: mixtureFor(features, ground.samples, kernels, ground),
  };
}
