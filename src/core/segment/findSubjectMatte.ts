import { polygonArea, polygonHull } from 'd3-polygon';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Mask } from '../mask/mask.ts';
import { reduceMarked } from '../mask/reduceMarked.ts';
import { splitInTwo } from '../numeric/splitInTwo.ts';
import { LOWEST_DENSITY } from './colourMixture.ts';
import { correctByStrokes } from './correctByStrokes.ts';
import { explainedByRing } from './explainedGround.ts';
import { unlikeTheRest } from './knownGround.ts';
import { leadMatte } from './leadMatte.ts';
import { outlineContrast } from './outlineContrast.ts';
import { segmentScene, type Segmentation } from './segmentScene.ts';
import { strangeness, type Strangeness } from './strangeness.ts';
import { describeScene, type SubjectScene, type SubjectStrokes } from './subjectScene.ts';

const WORK_PIXELS = 60_000;
/** At least this share of what lies deep in the mark starts as subject. */
const MIN_STRANGE = 0.05;
/** Less likely is not stranger. */
const LOWEST_LIKELIHOOD = -40;

export interface SubjectOptions {
  /** -1 = only what surely is the subject ... 1 = doubtful parts belong to it. */
  generosity: number;
  /** Of the mark's size: where the user said what is subject (`subject`) and what is not (`ground`), at 128 or more. */
  strokes?: SubjectStrokes;
  /** Of the mark's size: the subject as it was found before, for strokes to correct. */
  known?: Mask | undefined;
  /** Of the mark's size: where the thing may go on outside the mark, so that nothing there tells of the ground. */
  unseen?: Mask | undefined;
}

/**
 * The subject inside a loose mark, as a soft matte of the mark's size (255 = wholly subject): what differs from the
 * ring around the mark, lit or in shadow, is connected and lies away from the mark's rim. It is cut out of a reduced
 * image (see `segmentScene`), its edge carried to full resolution by a guided filter. Nothing outside the mark is subject.
 *
 * Where nothing in the mark stands out from its ring (or everything does), the mark itself is returned. Strokes correct
 * what was found without them: they are obeyed, and what is learned from that corrects the rest.
 */
export function findSubjectMatte(image: RasterImage, mark: Mask, options: SubjectOptions, kernels: Kernels): Mask {
  requireSameSize(image, mark, 'The mark');
  const factor = Math.max(1, Math.round(Math.sqrt((image.width * image.height) / WORK_PIXELS)));
  const scene = describeScene(reduceMarked(image, mark, factor), options.strokes, factor, options.unseen);
  const { width, height } = scene;
  const lead = (values: Float32Array): Mask => leadMatte(image, mark, { width, height, values, factor }, kernels);
  const { known, strokes } = options;
  const strange = strangeness(scene, kernels);
  const explained = explainedByRing(scene, scene.ring, kernels);
  const findAnew = (): Float32Array | undefined => {
    if (!strange) return undefined;
    const best = bestSubject(scene, strange, explained, options.generosity, kernels);
    const known = unlikeTheRest(scene, best, kernels);
    const subject = known.some((value) => value < 0)
      ? segmentScene(scene, strange, explained, best, options.generosity, kernels, known).subject
      : best;
    return standsOut(scene, strange, subject) ? subject : undefined;
  };
  if (strokes) {
    const before = known ? reduceMarked(image, known, factor).marked : findAnew();
    const start = correctByStrokes(scene, before ?? scene.marked, kernels);
    if (!strange) return obeyStrokes(lead(start), mark, strokes);
    const against = unlikeTheRest(scene, start, kernels);
    const again = segmentScene(scene, strange, explained, start, options.generosity, kernels, against);
    return obeyStrokes(lead(again.subject), mark, strokes);
  }
  const found = findAnew();
  if (!found) return mark;
  const share = found.reduce((sum, value) => sum + value, 0) / Math.max(1, scene.picks.length);
  return share < 0.02 || share > 0.97 ? mark : lead(found);
}

/** The matte, which a guided filter led onto the photo's edges, as strokes say it where they lie. */
function obeyStrokes(matte: Mask, mark: Mask, strokes: SubjectStrokes): Mask {
  return {
    ...matte,
    data: matte.data.map((value, i) =>
      strokes.subject.data[i]! >= 128 ? mark.data[i]! : strokes.ground.data[i]! >= 128 ? 0 : value,
    ),
  };
}

/** Area over that of the convex hull from which on a thing counts as solid. */
const SOLID = 0.88;
/** An outline across which colours differ by fewer levels is hardly one. */
const FAINT = 15;
/** Another outline must be so many times clearer to be taken for it. */
const CLEARER = 2;
/** For a thing with bays, one so many times clearer does, */
const CLEARER_AROUND_BAYS = 1.1;
/** or one that is hardly less clear, */
const AS_CLEAR = 0.95;
/** unless it explains the colours so much worse, a pixel. */
const WORSE = 0.05;

interface Candidate extends Segmentation {
  contrast: number;
  /** The share of its convex hull that it fills. */
  solidity: number;
}

/**
 * Starts from all that lies deep in the mark: right for a solid thing, also where its patterns are like the ground.
 * Where what comes of that has bays, ground lies in them that was taken for subject: then starts from what is strange
 * to the ring alone, unless that ends less clearly, or as clearly and explains the colours worse. Where it ends with
 * hardly an outline, it ends in a plain ground that is a little unlike the ring (a veil of cloud): then only what is
 * strangest in the mark counts, if that has a clearer one.
 */
function bestSubject(
  scene: SubjectScene,
  strange: Strangeness,
  explained: Float32Array,
  generosity: number,
  kernels: Kernels,
): Float32Array {
  const { marked, depth } = scene;
  const from = (test: (i: number) => boolean, seen = strange): Candidate => {
    const start = Float32Array.from(marked, (_, i) => (test(i) ? 1 : 0));
    const { subject, cost } = segmentScene(scene, seen, explained, start, generosity, kernels);
    return { subject, cost, contrast: outlineContrast(scene, subject), solidity: solidity(scene, subject) };
  };
  const isDeep = (i: number): boolean => depth[i]! > 1;
  const fromStranger = (than: number, seen?: Strangeness): Candidate =>
    from((i) => depth[i]! > 0.5 && strange.likelihood[i]! < than, seen);
  const deep = strange.likelihood.filter((_, i) => isDeep(i)).sort();
  let found = from(isDeep);
  if (found.solidity <= SOLID) {
    const low = Math.max(strange.low, deep[Math.floor(MIN_STRANGE * deep.length)] ?? strange.low);
    const ofStrange = fromStranger(low);
    const clearness = ofStrange.contrast / found.contrast;
    const explains = ofStrange.cost < found.cost + WORSE;
    if (clearness > CLEARER_AROUND_BAYS || (clearness > AS_CLEAR && explains)) found = ofStrange;
  }
  if (found.contrast >= FAINT || deep.length === 0) return found.subject;
  const low = Math.min(strange.low, splitInTwo(deep.map((value) => Math.max(LOWEST_LIKELIHOOD, value))));
  const strangest = fromStranger(low, { ...strange, low });
  return (strangest.contrast > CLEARER * found.contrast ? strangest : found).subject;
}

function solidity({ width, height }: SubjectScene, subject: Float32Array): number {
  // Only the first and the last of a row can lie on the hull.
  const ends: [number, number][] = [];
  let count = 0;
  for (let y = 0; y < height; y++) {
    let [first, last] = [-1, -1];
    for (let x = 0; x < width; x++) {
      if (!subject[y * width + x]) continue;
      if (first < 0) first = x;
      last = x;
      count++;
    }
    if (first >= 0) ends.push([first, y]);
    if (last > first) ends.push([last, y]);
  }
  const hull = polygonHull(ends);
  return hull ? count / Math.abs(polygonArea(hull)) : 1;
}

/** How much less likely (logarithm) the subject's colours must be on the ground than those of the rest of the mark. */
const MIN_CONTRAST = 0.4;

/** Whether what was found really has other colours than the ground, rather than being a blotch of its grain. */
function standsOut({ marked }: SubjectScene, { likelihood }: Strangeness, probability: Float32Array): boolean {
  const sum = [0, 0];
  const count = [0, 0];
  for (let i = 0; i < marked.length; i++) {
    if (marked[i]! < 0.5) continue;
    const side = probability[i]! > 0.5 ? 1 : 0;
    sum[side]! += Math.max(LOWEST_DENSITY, likelihood[i]!);
    count[side]! += 1;
  }
  return count[1]! > 0 && (count[0] === 0 || sum[0]! / count[0]! - sum[1]! / count[1]! > MIN_CONTRAST);
}
