import { AS_TAKEN, uprightCorners, uprightHomography } from '../src/core/geometry/frameGeometry.ts';
import { largestRectInside } from '../src/core/geometry/rectInside.ts';
import { resampleImage } from '../src/core/geometry/resampleImage.ts';
import type { Warp } from '../src/core/geometry/warp.ts';
import { placementToAffine } from '../src/core/image/affine.ts';
import { halveImage } from '../src/core/image/halve.ts';
import { cropImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import { resampleAffine } from '../src/core/image/resample.ts';
import { inflate, wholeOf, type Rect } from '../src/core/image/rect.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { createMask, type Mask } from '../src/core/mask/mask.ts';
import { reduceLuma } from '../src/core/planes/reduceLuma.ts';
import { findUpright } from '../src/core/planes/findUpright.ts';
import { findLineSegments } from '../src/core/planes/lineSegments.ts';
import { drain } from '../src/core/progress.ts';
import { lookAt } from '../src/engine/pictureSource.ts';
import { writePicture } from '../src/formats/node/pictureFiles.ts';
import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { findStretch } from '../src/operations/kinds/stretch/findStretch.ts';
import { stretchSchema } from '../src/operations/kinds/stretch/schema.ts';
import { flatFill, mirroredBorder, stretchedBorder } from './baselines.ts';
import { fidelity, overall } from './fidelity.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { boardsPhoto, demoPhoto } from './scenes.ts';
import type { Table } from './table.ts';

const DEGREE = Math.PI / 180;
const CUT_SHARE = 0.2;

/** Pictures cut by a fifth and carried back, beside holes of the same size and cheap borders. */
export async function measureBorders(folder: string, kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Carried past the edge',
    about:
      'A fifth of each demo picture, at half its size, cut off on the right, or on the right and above, and carried back; of six takes the one shown first. Overall as in the quality table (share of a flat fill, 0 = the truth); beside it a hole as large inside the picture, the border mirrored, and its outermost strip stretched.',
    columns: ['', 'carried back', 'hole as large', 'mirrored', 'stretched'],
    rows: [],
  };
  for (const name of ['quay', 'kilnyard', 'dunes-heron', 'glaze-table', 'facade']) {
    const photo = halveImage(await demoPhoto(name));
    for (const sides of [1, 2] as const) {
      const { width, height } = photo;
      const kept = {
        x: 0,
        y: sides === 2 ? Math.round(CUT_SHARE * height) : 0,
        width: Math.round((1 - CUT_SHARE) * width),
        height: height - (sides === 2 ? Math.round(CUT_SHARE * height) : 0),
      };
      const margin = maskOutside(photo, kept);
      const score = (picture: RasterImage, mark: Mask): number =>
        overall(fidelity(picture, photo, mark), fidelity(flatFill(photo, mark), photo, mark));
      const carried = shownFirst(photo, margin, kernels);
      const hole = maskInside(photo, margin);
      const filled = shownFirst(photo, hole, kernels);
      await writePicture(`${folder}carried-${name}-${sides}.png`, carried);
      table.rows.push([
        `${name}, ${sides === 1 ? 'one side' : 'two sides'}`,
        score(carried, margin),
        score(filled, hole),
        score(mirroredBorder(photo, kept), margin),
        score(stretchedBorder(photo, kept), margin),
      ]);
    }
  }
  return table;
}

/** The picture with the take that ranks best of a first round. */
function shownFirst(photo: RasterImage, mark: Mask, kernels: Kernels): RasterImage {
  const takes = FIRST_ROUND.map((strategy) => rebuild(photo, mark, strategy, kernels));
  return takes.reduce((best, take) => (take.fill.rank < best.fill.rank ? take : best)).picture();
}

function maskOutside({ width, height }: RasterImage, kept: Rect): Mask {
  const mask = createMask(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) if (x >= kept.width || y < kept.y) mask.data[y * width + x] = 255;
  }
  return mask;
}

/** A rectangle in the picture's middle with as many pixels as a mask marks. */
function maskInside({ width, height }: RasterImage, like: Mask): Mask {
  const share = Math.sqrt(like.data.reduce((sum, value) => sum + (value ? 1 : 0), 0) / (width * height));
  const mask = createMask(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const isInside = Math.abs(x / width - 0.5) < share / 2 && Math.abs(y / height - 0.5) < share / 2;
      if (isInside) mask.data[y * width + x] = 255;
    }
  }
  return mask;
}

/** Tilts by which pictures are turned before they are levelled, degrees. */
const TILTS = [-6.5, -4.2, -3, -1, 1.7, 3.4, 5];
/** Pictures with lines, and the turn that levels each, degrees clockwise; without one, what is found untilted. */
const LINED: readonly (readonly [string, number?])[] = [['quay'], ['kilnyard'], ['facade', 2]];

/** Levelling of tilted pictures, squaring up of the house front, and what a carried picture keeps. */
export async function measureStraightening(kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Set straight',
    about:
      'Demo pictures turned by seven angles from -6.5 to 5 degrees and levelled by their lines: mean and largest error in degrees, against the known tilt of the house front and against what is found for the others untilted. The house front squared up by its lines: degrees by which upright edges of its left and right third still converge. A turn by 7 degrees and back: signal to noise in dB, beside a bicubic kernel.',
    columns: ['', 'figure', 'largest or compared'],
    rows: [],
  };
  for (const [name, own] of LINED) {
    const photo = await demoPhoto(name);
    const upright = own ?? (findUpright(photo).level ?? NaN) / DEGREE;
    const errors = TILTS.map((tilt) => {
      const { level } = findUpright(turned(photo, tilt, kernels));
      return level === undefined ? Infinity : Math.abs(level / DEGREE + tilt - upright);
    });
    table.rows.push([`levelled: ${name}`, errors.reduce((a, b) => a + b) / errors.length, Math.max(...errors)]);
  }
  const facade = await demoPhoto('facade');
  const { square } = findUpright(facade);
  if (square) {
    const warp: Warp = { kind: 'projective', toTarget: uprightHomography(square, facade) };
    const before = convergence(facade);
    table.rows.push([
      'convergence: house front, after and before',
      convergence(drain(resampleImage(facade, [warp], facade, kernels))),
      before,
    ]);
  }
  const quay = await demoPhoto('quay');
  table.rows.push(['there and back by 7 degrees, quay', roundTrip(quay, kernels), bicubicRoundTrip(quay)]);
  return table;
}

/** A picture turned clockwise, its corners cut off. */
function turned(photo: RasterImage, degrees: number, kernels: Kernels): RasterImage {
  const upright = { ...AS_TAKEN, turn: degrees * DEGREE };
  const rect = inflate(largestRectInside(uprightCorners(upright, photo), photo.width / photo.height)!, -1);
  const cut: Warp = { kind: 'projective', toTarget: [1, 0, -rect.x, 0, 1, -rect.y, 0, 0, 1] };
  const turn: Warp = { kind: 'projective', toTarget: uprightHomography(upright, photo) };
  return drain(resampleImage(photo, [turn, cut], rect, kernels));
}

/** By how many degrees the long upright edges of a picture's left and right third lean apart. */
function convergence(image: RasterImage): number {
  const { luma, hole, width, height } = reduceLuma(image, new Uint8Array(image.width * image.height), 2);
  const long = findLineSegments(luma, hole, width, height, 900).filter(
    ({ x0, y0, x1, y1, length }) => length > 60 && Math.abs(x1 - x0) < 0.35 * Math.abs(y1 - y0),
  );
  const lean = (from: number, to: number): number => {
    let [sum, weight] = [0, 0];
    for (const { x0, y0, x1, y1, length } of long) {
      const middle = (x0 + x1) / 2 / width;
      if (middle < from || middle >= to) continue;
      sum += length * Math.atan((x1 - x0) / (y1 - y0));
      weight += length;
    }
    return sum / weight / DEGREE;
  };
  return Math.abs(lean(0, 1 / 3) - lean(2 / 3, 1));
}

function roundTrip(photo: RasterImage, kernels: Kernels): number {
  const by = (degrees: number): Warp => ({
    kind: 'projective',
    toTarget: uprightHomography({ ...AS_TAKEN, turn: degrees * DEGREE }, photo),
  });
  const there = drain(resampleImage(photo, [by(7)], photo, kernels));
  return signalToNoise(drain(resampleImage(there, [by(-7)], photo, kernels)), photo);
}

function bicubicRoundTrip(photo: RasterImage): number {
  const { width, height } = photo;
  const turn = (image: RasterImage, degrees: number): RasterImage => {
    const centre = { x: width / 2, y: height / 2 };
    const map = placementToAffine({ dxPx: 0, dyPx: 0, scale: 1, turn: degrees * DEGREE, mirror: 'none' }, centre);
    const planes = { width, height, channels: 4, data: Float32Array.from(image.data) };
    const { data } = resampleAffine(planes, { x: 0, y: 0 }, map, wholeOf(photo));
    return { width, height, data: Uint8ClampedArray.from(data) };
  };
  return signalToNoise(turn(turn(photo, 7), -7), photo);
}

/** Peak signal to noise over the picture's middle half, in dB. */
function signalToNoise(image: RasterImage, truth: RasterImage): number {
  const middle = {
    x: truth.width >> 2,
    y: truth.height >> 2,
    width: truth.width >> 1,
    height: truth.height >> 1,
  };
  const [a, b] = [cropImage(image, middle).data, cropImage(truth, middle).data];
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += i % 4 === 3 ? 0 : (a[i]! - b[i]!) ** 2;
  return 10 * Math.log10(255 ** 2 / (sum / (0.75 * a.length)));
}

/** Times of carrying over and stretching at 24 megapixels, by one thread and by two. */
export function measureFrameTime(): Table {
  const table: Table = {
    title: 'Frames at 24 megapixels',
    about: 'Milliseconds by the clock, one thread and two. Stretching: narrowed by a tenth, paths found and applied.',
    columns: ['', '1 thread', '2 threads'],
    rows: [],
  };
  const photo = boardsPhoto(6000, 4000);
  const turn: Warp = { kind: 'projective', toTarget: uprightHomography({ ...AS_TAKEN, turn: 3 * DEGREE }, photo) };
  const squared: Warp = { kind: 'projective', toTarget: uprightHomography({ ...AS_TAKEN, pitch: 0.2 }, photo) };
  const params = stretchSchema.parse({ width: 5400, height: 4000, take: { strategy: 'as it is', seed: 1 } });
  const jobs: readonly (readonly [string, (kernels: Kernels) => unknown])[] = [
    ['turned', (kernels) => drain(resampleImage(photo, [turn], photo, kernels))],
    ['squared up', (kernels) => drain(resampleImage(photo, [squared], photo, kernels))],
    [
      'stretched',
      (kernels) => {
        const warps = drain(findStretch(params, photo, lookAt(photo), kernels));
        return drain(resampleImage(photo, warps, params, kernels));
      },
    ],
  ];
  const threads = [nodeKernels(1), nodeKernels(2)];
  for (const [name, run] of jobs) {
    const times = threads.map((kernels) => {
      const start = performance.now();
      run(kernels);
      return Math.round(performance.now() - start);
    });
    table.rows.push([name, ...times]);
  }
  threads.forEach((kernels) => kernels.close());
  return table;
}
