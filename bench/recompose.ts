import { polygonHull } from 'd3-polygon';
import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../src/core/image/rect.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import { separateAreas } from '../src/core/mask/components.ts';
import { areaOf, boundsOf, createMask, cropMask, pasteMask, type Mask } from '../src/core/mask/mask.ts';
import { squaredDistanceTo } from '../src/core/mask/distanceTransform.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { rasterisePolygon } from '../src/core/mask/polygon.ts';
import { drain } from '../src/core/progress.ts';
import type { SubjectStrokes } from '../src/core/segment/subjectScene.ts';
import { findHorizon } from '../src/core/planes/findHorizon.ts';
import { findShadow } from '../src/core/segment/findShadow.ts';
import { findSubjectMatte } from '../src/core/segment/findSubjectMatte.ts';
import { readMask, writePicture } from '../src/formats/node/pictureFiles.ts';
import { operationOf } from '../src/operations/catalogue.ts';
import { composePatches } from '../src/operations/composePatches.ts';
import type { Mark } from '../src/operations/marks/markSchema.ts';
import { markFromMask } from '../src/operations/marks/renderMark.ts';
import { distinctTakes, planTakes } from '../src/operations/takes.ts';
import { flatFill } from './baselines.ts';
import { enlargedImage, enlargedMask } from './enlarged.ts';
import { fidelity } from './fidelity.ts';
import { at, demoPhoto, truthPhoto, withFoundShadow } from './scenes.ts';
import type { Table } from './table.ts';

const SMALLEST_SUBJECT_PX = 3000;

/** The demo pictures' masks of things, by picture. */
const SUBJECTS: Readonly<Record<string, readonly string[]>> = {
  'dunes-heron': ['heron'],
  'glaze-table': ['bowl-blue', 'bowl-green', 'bowl-yellow', 'cloth', 'small-bowls', 'tiles', 'tools'],
  kilnyard: ['broom-bucket', 'handcart', 'vase'],
  quay: ['jars'],
};

/** How well subjects are found in loose loops: the convex hull of the true mask, grown by a tenth of its longer side. */
export async function measureSubjects(kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Finding subjects',
    about:
      'From a loop that is the convex hull of the true mask grown by a tenth of its longer side: intersection over union with the true mask (1 = the truth), what was taken too much and missed as shares of the thing, and the time; then the overlap after one, two and three short strokes, each through the middle of the largest part that is wrong. Last, in the picture enlarged with grain to 24 megapixels: the overlap, and the time by the clock and of the processor, background compiling included.',
    columns: ['', 'overlap', 'too much', 'missed', 'ms', '1 stroke', '2', '3', '24 MP', 'ms', 'processor ms'],
    rows: [],
  };
  for (const [picture, names] of Object.entries(SUBJECTS)) {
    const photo = await demoPhoto(picture);
    for (const name of names) {
      const all = await readMask(at(`truth/${picture}_mask-${name}.png`), photo, name);
      const parts = separateAreas(binary(all), SMALLEST_SUBJECT_PX);
      for (const [k, truth] of parts.entries()) {
        const label = `${name}${parts.length > 1 ? ` ${k + 1}` : ''}, ${picture}`;
        const loop = looseLoop(truth);
        const large = await foundEnlarged(photo, truth, loop, kernels);
        table.rows.push([label, ...foundIn(photo, truth, loop, kernels), ...large]);
      }
    }
  }
  const overlaps = [1, 5, 6, 7, 8].map((column) => table.rows.map((row) => row[column] as number));
  const over = (name: string, sum: (values: number[]) => number): void => {
    const [first, ...others] = overlaps.map(sum);
    table.rows.push([name, first!, '', '', '', ...others, '', '']);
  };
  over('mean', (values) => values.reduce((a, b) => a + b, 0) / values.length);
  over('least', (values) => Math.min(...values));
  return table;
}

const binary = (mask: Mask): Mask => ({ ...mask, data: mask.data.map((value) => (value >= 128 ? 255 : 0)) });

function looseLoop(truth: Mask): Mask {
  const points: [number, number][] = [];
  truth.data.forEach((value, i) => {
    if (value) points.push([i % truth.width, Math.floor(i / truth.width)]);
  });
  const { width, height } = boundsOf(truth);
  const hull = rasterisePolygon(polygonHull(points)!.flat(), truth.width, truth.height);
  return growMask(hull, 0.1 * Math.max(width, height));
}

function foundIn(photo: RasterImage, truth: Mask, loop: Mask, kernels: Kernels): number[] {
  const rect = aroundLoop(loop);
  const [image, mark] = [cropImage(photo, rect), cropMask(loop, rect)];
  const wanted = binary(cropMask(truth, rect));
  const start = performance.now();
  let found = findSubjectMatte(image, mark, { generosity: 0 }, kernels);
  const ms = performance.now() - start;
  const { overlap, extra, missed } = compareMasks(found, wanted);
  const strokes = { subject: createMask(rect.width, rect.height), ground: createMask(rect.width, rect.height) };
  const stroked = Array.from({ length: 3 }, () => {
    addStroke(strokes, binary(found), wanted);
    found = findSubjectMatte(image, mark, { generosity: 0, strokes }, kernels);
    return compareMasks(found, wanted).overlap;
  });
  return [overlap, extra, missed, Math.round(ms), ...stroked];
}

/** Enlarged so many times to each side, a demo picture has 24 megapixels. */
const TO_24_MEGAPIXELS = 2.5;

/** The overlap in an enlarged picture, and milliseconds by the clock and of the processor. */
async function foundEnlarged(photo: RasterImage, truth: Mask, loop: Mask, kernels: Kernels): Promise<number[]> {
  const rect = aroundLoop(loop);
  const size = {
    width: Math.round(TO_24_MEGAPIXELS * rect.width),
    height: Math.round(TO_24_MEGAPIXELS * rect.height),
  };
  const image = await enlargedImage(cropImage(photo, rect), size);
  const [mark, wanted] = [
    await enlargedMask(cropMask(loop, rect), size),
    await enlargedMask(cropMask(truth, rect), size),
  ];
  const cpu = process.cpuUsage();
  const start = performance.now();
  const found = findSubjectMatte(image, mark, { generosity: 0 }, kernels);
  const ms = performance.now() - start;
  const { user, system } = process.cpuUsage(cpu);
  return [compareMasks(found, wanted).overlap, Math.round(ms), Math.round((user + system) / 1000)];
}

function compareMasks(found: Mask, wanted: Mask): { overlap: number; extra: number; missed: number } {
  let [both, extra, missed] = [0, 0, 0];
  for (let i = 0; i < wanted.data.length; i++) {
    const [isFound, isTrue] = [found.data[i]! >= 128, wanted.data[i]! >= 128];
    if (isFound && isTrue) both++;
    else if (isFound) extra++;
    else if (isTrue) missed++;
  }
  const size = both + missed;
  return { overlap: both / (both + extra + missed), extra: extra / size, missed: missed / size };
}

/** A stroke is at most this share of the thing's longer side long. */
const STROKE_SHARE = 0.25;

/** Smaller areas that are wrong nobody strokes. */
const SPECK_PX = 20;

/** Strokes along the middle of the largest area that is wrong, as a hand that corrects would. */
function addStroke(strokes: SubjectStrokes, found: Mask, wanted: Mask): void {
  const wrong = combineMasks(combineMasks(found, wanted, 'also'), combineMasks(found, wanted, 'onlyBoth'), 'without');
  const areas = separateAreas(wrong, SPECK_PX);
  if (areas.length === 0) return;
  const largest = areas.reduce((a, b) => (areaOf(b) > areaOf(a) ? b : a));
  const depth = squaredDistanceTo(largest, false);
  const deepest = depth.reduce((best, d, i) => (d > depth[best]! ? i : best), 0);
  const { width, height } = boundsOf(wanted);
  const reach = (STROKE_SHARE * Math.max(width, height)) / 2;
  const to = wanted.data[deepest] ? strokes.subject : strokes.ground;
  for (let i = 0; i < depth.length; i++) {
    const far = Math.hypot(
      (i % found.width) - (deepest % found.width),
      Math.floor(i / found.width) - Math.floor(deepest / found.width),
    );
    if (largest.data[i] && far <= reach && depth[i]! > 0.4 * depth[deepest]!) to.data[i] = 255;
  }
}

interface Moved {
  name: string;
  picture: string;
  subject: string;
  truth: string;
  truthMask: string;
  plate: string;
  placement: { dxPx: number; dyPx: number; scale: number };
}

/** Placements as they fit the renders best, from the boxes of both masks. */
const MOVED: readonly Moved[] = [
  {
    name: 'jars, quay',
    picture: 'quay',
    subject: 'jars',
    truth: 'quay_truth-jars-moved-1.5m',
    truthMask: 'quay_truth-jars-moved-1.5m_mask-jars',
    plate: 'quay_clean-plate',
    placement: { dxPx: 738, dyPx: -2, scale: 1 },
  },
  {
    name: 'vase, kiln yard',
    picture: 'kilnyard',
    subject: 'vase',
    truth: 'kilnyard_truth-vase-moved',
    truthMask: 'kilnyard_truth-vase-moved_mask-vase',
    plate: 'kilnyard_clean-plate',
    placement: { dxPx: -570, dyPx: 40, scale: 1.06 },
  },
];

/** Moved subjects, shadow found by itself, against renders of the moved thing; pictures go to `folder`. */
export async function measureMoves(folder: string, kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Moving, against renders of the moved thing',
    about:
      'The subject is found in a loose loop (the convex hull of the true mask grown by a tenth of its longer side), its shadow beside it, the mark grown by 10 px; of a round of takes the one shown first. Compared over both places and both shadows; tone, texture, lines and seam as above; shadow: mean squared error where the render has the new shadow, and how many times that is without the shadow moved along.',
    columns: ['', 'take', 'tone', 'texture', 'lines', 'seam', 'shadow', 'times without'],
    rows: [],
  };
  for (const scene of MOVED) {
    const photo = await demoPhoto(scene.picture);
    const truth = await truthPhoto(scene.truth);
    const name = `${scene.picture}_mask-${scene.subject}`;
    const marks = foundMarks(photo, await readMask(at(`truth/${name}.png`), photo, scene.subject), kernels);
    const landed = await readMask(at(`truth/${scene.truthMask}.png`), photo, scene.subject);
    const newShadow = darkened(truth, await truthPhoto(scene.plate), growMask(landed, 6));
    const changed = [await withFoundShadow(name, photo, kernels), growMask(landed, 14), newShadow].reduce((a, b) =>
      combineMasks(a, b, 'also'),
    );
    const withIt = movedBest(photo, marks, scene, true, kernels);
    const without = movedBest(photo, marks, scene, false, kernels);
    await writePicture(`${folder}moved-${scene.picture}.png`, withIt.image);
    const f = fidelity(withIt.image, truth, changed);
    const error = squaredError(withIt.image, truth, newShadow);
    const flat = fidelity(flatFill(photo, changed), truth, changed);
    table.rows.push([`${scene.name}: flat fill`, '', flat.tone, flat.texture, flat.lines, flat.seam, '', '']);
    const times = squaredError(without.image, truth, newShadow) / error;
    table.rows.push([scene.name, withIt.take, f.tone, f.texture, f.lines, f.seam, error, times]);
  }
  return table;
}

/** What a person marks: the subject found in a loop, and its shadow, which is no part of it. */
interface FoundMarks {
  mark: Mark;
  belongsNot: Mark;
}

const SLACK_PX = 10;

function foundMarks(photo: RasterImage, truth: Mask, kernels: Kernels): FoundMarks {
  const loop = looseLoop(truth);
  const rect = aroundLoop(loop);
  const matte = findSubjectMatte(cropImage(photo, rect), cropMask(loop, rect), { generosity: 0 }, kernels);
  const subject = createMask(photo.width, photo.height);
  pasteMask(subject, rect, matte);
  const as = (mask: Mask, found: 'subject' | 'shadow'): Mark => {
    const mark = markFromMask(mask);
    const shapes = mark.shapes.map((shape) => (shape.kind === 'raster' ? { ...shape, found } : shape));
    return { ...mark, shapes };
  };
  const belongsNot = as(findShadow(photo, subject, kernels), 'shadow');
  const { shapes } = as(subject, 'subject');
  const also = belongsNot.shapes.map((shape) => ({ ...shape, combine: 'also' as const }));
  return { mark: { ...belongsNot, shapes: [...shapes, ...also], growPx: SLACK_PX }, belongsNot };
}

/** The part of the photo around a loop that finding its subject looks at. */
function aroundLoop(loop: Mask): Rect {
  const bounds = boundsOf(loop);
  return intersect(inflate(bounds, Math.ceil(0.15 * Math.max(bounds.width, bounds.height)) + 8), wholeOf(loop));
}

/** The take of a round that is shown first. */
function movedBest(
  photo: RasterImage,
  marks: FoundMarks,
  { placement }: Moved,
  withShadow: boolean,
  kernels: Kernels,
): { take: string; image: RasterImage } {
  const operation = operationOf('move');
  const memo = new Map<string, unknown>();
  const horizonPx = findHorizon(photo);
  const takes = planTakes(operation, 0).map((take) => {
    const params = operation.schema.parse({ ...marks, placement, withShadow, horizonPx, take });
    const regions = operation.regions(params, photo).map((rect) => ({ rect, image: cropImage(photo, rect) }));
    const result = drain(operation.apply({ params, photo, regions, inputKey: 'photo', memo, kernels }));
    return { spec: take, result };
  });
  const [best] = distinctTakes(takes);
  const image = { ...photo, data: photo.data.slice() };
  composePatches(image, { x: 0, y: 0 }, best!.result.patches);
  return { take: best!.spec.strategy, image };
}

const DARKER_BY = 15;

/** Where one picture is clearly darker than the other, without what `except` covers. */
function darkened(picture: RasterImage, lit: RasterImage, except: Mask): Mask {
  const out = createMask(picture.width, picture.height);
  for (let i = 0; i < out.data.length; i++) {
    let difference = 0;
    for (let c = 0; c < 3; c++) difference += lit.data[4 * i + c]! - picture.data[4 * i + c]!;
    if (!except.data[i] && difference > 3 * DARKER_BY) out.data[i] = 255;
  }
  return out;
}

function squaredError(picture: RasterImage, truth: RasterImage, where: Mask): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < where.data.length; i++) {
    if (!where.data[i]) continue;
    for (let c = 0; c < 3; c++) sum += (picture.data[4 * i + c]! - truth.data[4 * i + c]!) ** 2;
    count += 3;
  }
  return sum / Math.max(1, count);
}
