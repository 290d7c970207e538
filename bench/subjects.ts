import { polygonHull } from 'd3-polygon';
import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { inflate, intersect, wholeOf, type Rect } from '../src/core/image/rect.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { combineMasks } from '../src/core/mask/combine.ts';
import { separateAreas } from '../src/core/mask/components.ts';
import { squaredDistanceTo } from '../src/core/mask/distanceTransform.ts';
import { areaOf, boundsOf, createMask, cropMask, type Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { rasterisePolygon } from '../src/core/mask/polygon.ts';
import { findSubjectMatte } from '../src/core/segment/findSubjectMatte.ts';
import type { SubjectStrokes } from '../src/core/segment/subjectScene.ts';
import { readMask } from '../src/formats/node/pictureFiles.ts';
import { enlargedImage, enlargedMask } from './enlarged.ts';
import { at, demoPhoto } from './scenes.ts';
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

/** Of a mask, what is more than half in it. */
export const binary = (mask: Mask): Mask => ({ ...mask, data: mask.data.map((value) => (value >= 128 ? 255 : 0)) });

/** A loop as a hand would draw it around a thing. */
export function looseLoop(truth: Mask): Mask {
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

/** The overlap (intersection over union) of what was found with the truth, and what is too much and missed as shares of it. */
export function compareMasks(found: Mask, wanted: Mask): { overlap: number; extra: number; missed: number } {
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

/** The part of the photo around a loop that finding its subject looks at. */
export function aroundLoop(loop: Mask): Rect {
  const bounds = boundsOf(loop);
  return intersect(inflate(bounds, Math.ceil(0.15 * Math.max(bounds.width, bounds.height)) + 8), wholeOf(loop));
}
