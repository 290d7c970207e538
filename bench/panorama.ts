import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { z } from 'zod';
import { applyHomography, multiplyHomographies } from '../src/core/geometry/homography.ts';
import { resampleThrough } from '../src/core/geometry/resampleImage.ts';
import type { CarryBack } from '../src/core/geometry/warp.ts';
import { halveImage } from '../src/core/image/halve.ts';
import { byteFromLinear, LINEAR_FROM_BYTE } from '../src/core/image/linearLight.ts';
import { createImage, type RasterImage } from '../src/core/image/rasterImage.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { createMask, type Mask } from '../src/core/mask/mask.ts';
import { enlarged } from './enlarged.ts';
import { NO_FRAME } from '../src/core/panorama/assignFrames.ts';
import { homographyBetween, inverseRotation, NO_TURN, rotationOf, type Camera } from '../src/core/panorama/camera.ts';
import { findGaps, usualGrowPx } from '../src/core/panorama/findGaps.ts';
import { directionAt } from '../src/core/panorama/projection.ts';
import { drain } from '../src/core/progress.ts';
import type { PanoramaPlan } from '../src/engine/panoramaPlan.ts';
import { openStitcher, type Stitcher } from '../src/engine/stitcher.ts';
import { writePicture } from '../src/formats/node/pictureFiles.ts';
import { openVision } from '../src/vision/vision.ts';
import { flatFill, membraneFill } from './baselines.ts';
import { cells, fidelity, overall } from './fidelity.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { at, demoPhoto } from './scenes.ts';
import type { Table } from './table.ts';

const DEGREES = Math.PI / 180;

const sweepTruth = z.object({
  frames: z.array(z.object({ file: z.string(), yaw: z.number(), pitch: z.number(), roll: z.number(), ev: z.number() })),
  frame_size: z.tuple([z.number(), z.number()]),
  focal_px: z.number(),
});
const wideTruth = z.object({
  full_size: z.tuple([z.number(), z.number()]),
  crop: z.tuple([z.number(), z.number(), z.number(), z.number()]),
});

/** The demo sweep stitched: against what is known of it, its seams against the rest, its gaps against the view in one picture. */
export async function measurePanorama(folder: string, kernels: Kernels): Promise<Table[]> {
  const truth = sweepTruth.parse(JSON.parse(await readFile(at('truth/lagoon-sweep_truth.json'), 'utf8')));
  const [width, height] = truth.frame_size;
  const size = { width, height };
  const taken = truth.frames.map(({ yaw, pitch, roll }): Camera => ({
    rotation: rotationOf({ yaw: yaw * DEGREES, pitch: pitch * DEGREES, roll: roll * DEGREES }),
    focalPx: truth.focal_px,
    bend: 0,
  }));
  const photos = await Promise.all(truth.frames.map(({ file }) => demoPhoto(file.replace('.jpg', ''))));
  const files = photos.map((photo, k) => ({ name: truth.frames[k]!.file, open: () => Promise.resolve(photo) }));
  const stitcher = await openStitcher(files, await openVision(), kernels, 50e6);
  const plan = await stitcher.plan({ projection: 'auto', turn: NO_TURN, pulled: [] });
  const panorama = await stitcher.render(plan, plan.layout.bounds);
  await writePicture(`${folder}panorama.png`, panorama);
  const cameras = stitcher.report.frames.map(({ rotation, focalPx }): Camera => ({
    rotation: rotation!,
    focalPx: focalPx!,
    bend: 0,
  }));
  const errors = taken.slice(1).map((camera, k) => {
    const wanted = homographyBetween(camera, size, taken[k]!, size);
    return meanShift(wanted, homographyBetween(cameras[k + 1]!, size, cameras[k]!, size), size);
  });
  const gainErrors = stitcher.report.frames.map(({ gain }, k) => {
    const wanted = 2 ** (truth.frames[k]!.ev - truth.frames[0]!.ev);
    return Math.abs(gain! / wanted - 1) * 100;
  });
  const seams = seamFigures(panorama, plan);
  const alignment: Table = {
    title: 'Stitching',
    about:
      'The five frames of the lagoon, 2000 px wide, against how they were taken. Where a frame’s points lie in its neighbour, mean and worst of the four pairs; the focal length; exposures; the gradient across the seams as a share of that along the same lines set off to both sides.',
    columns: ['', 'figure'],
    rows: [
      ['reprojection, mean, px', errors.reduce((sum, error) => sum + error, 0) / errors.length],
      ['reprojection, worst pair, px', Math.max(...errors)],
      ['focal length, % off', Math.abs(cameras[0]!.focalPx / truth.focal_px - 1) * 100],
      ['gain, worst frame, % off', Math.max(...gainErrors)],
      ['gradient across the seams', seams],
    ],
  };
  return [alignment, await measureGaps(folder, panorama, stitcher, plan, taken, kernels)];
}

/** How far two maps put the same points apart, px, over the part of a frame that lands in the other. */
function meanShift(
  a: Parameters<typeof applyHomography>[0],
  b: Parameters<typeof applyHomography>[0],
  { width, height }: { width: number; height: number },
): number {
  let [sum, count] = [0, 0];
  for (let y = 5; y < height; y += 20) {
    for (let x = 5; x < width; x += 20) {
      const p = applyHomography(a, x, y);
      if (p.x < 0 || p.y < 0 || p.x > width || p.y > height) continue;
      const q = applyHomography(b, x, y);
      sum += Math.hypot(p.x - q.x, p.y - q.y);
      count++;
    }
  }
  return sum / count;
}

/** Distances at which lines beside a seam are compared with it, px. */
const OFFSETS = [-160, -120, -80, 80, 120, 160];

function seamFigures(panorama: RasterImage, { layout, assignment }: PanoramaPlan): number {
  const { layout: small, labels } = assignment;
  const scale = layout.projection.scale / small.projection.scale;
  const { width } = small.bounds;
  const luma = (x: number, y: number): number => panorama.data[4 * (y * panorama.width + x) + 1]!;
  let [across, beside, besides] = [0, 0, 0];
  const gradient = (x: number, y: number): number => {
    if (x < 8 || x >= panorama.width - 8 || y < 0 || y >= panorama.height) return NaN;
    for (const u of [x - 6, x + 6]) if (panorama.data[4 * (y * panorama.width + u) + 3] !== 255) return NaN;
    let sum = 0;
    for (let u = x - 4; u < x + 4; u++) sum += Math.abs(luma(u + 1, y) - luma(u, y));
    return sum;
  };
  for (let i = 0; i + 1 < labels.length; i++) {
    const [a, b] = [labels[i]!, labels[i + 1]!];
    if (a === b || a === NO_FRAME || b === NO_FRAME || i % width === width - 1) continue;
    const x = Math.round(((i % width) + 1) * scale);
    const y = Math.round((Math.floor(i / width) + 0.5) * scale);
    const others = OFFSETS.map((offset) => gradient(x + offset, y)).filter(Number.isFinite);
    const own = gradient(x, y);
    if (!Number.isFinite(own) || others.length === 0) continue;
    across += own;
    beside += others.reduce((sum, value) => sum + value, 0) / others.length;
    besides++;
  }
  return besides > 0 ? across / beside : NaN;
}

/** The gaps of the panorama closed, against the same view in one picture (at half size: that is how sharp it is). */
async function measureGaps(
  folder: string,
  panorama: RasterImage,
  stitcher: Stitcher,
  plan: PanoramaPlan,
  taken: readonly Camera[],
  kernels: Kernels,
): Promise<Table> {
  const gaps = findGaps(panorama, 'none', 254, usualGrowPx(panorama));
  const wide = await wideView(panorama, plan, stitcher, taken, kernels);
  const table: Table = {
    title: 'Gaps of a panorama',
    about:
      'All that no frame covers, rebuilt; against the same view in one true picture, at half size. The first take of each way of filling; as in the quality table, 0 = the truth; overall is a share of a flat fill.',
    columns: ['', 'tone', 'texture', 'lines', 'seam', 'overall'],
    rows: [],
  };
  const mark = halfMask(gaps);
  const truth = halveImage(wide);
  await writePicture(`${folder}gaps-truth.png`, truth);
  const flat = fidelity(halveImage(flatFill(panorama, gaps)), truth, mark);
  const add = (name: string, filled: RasterImage): void => {
    const figures = fidelity(halveImage(filled), truth, mark);
    table.rows.push([name, ...cells(figures), overall(figures, flat)]);
  };
  const filled = rebuild(panorama, gaps, FIRST_ROUND[0]!, kernels).picture();
  await writePicture(`${folder}gaps-closed.png`, filled);
  add('first take', filled);
  add('membrane', membraneFill(panorama, gaps));
  add('flat fill', flatFill(panorama, gaps));
  return table;
}

function halfMask({ width, height, data }: Mask): Mask {
  const half = createMask(Math.ceil(width / 2), Math.ceil(height / 2));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (data[y * width + x]! >= 128) half.data[(y >> 1) * half.width + (x >> 1)] = 255;
    }
  }
  return half;
}

/** The true view of all the panorama shows, as bright as the panorama. */
async function wideView(
  panorama: RasterImage,
  { layout, cameras, given }: PanoramaPlan,
  stitcher: Stitcher,
  taken: readonly Camera[],
  kernels: Kernels,
): Promise<RasterImage> {
  const { full_size: full, crop } = wideTruth.parse(
    JSON.parse(await readFile(at('truth/lagoon-sweep_wide.json'), 'utf8')),
  );
  // The panorama's world is turned against that in which the frames were taken: the middle frame tells how.
  const middle = stitcher.report.order[2]!;
  const turn = multiplyHomographies(taken[middle]!.rotation, inverseRotation(cameras[given.indexOf(middle)]!.rotation));
  const perRadian = full[0] / (2 * Math.PI);
  const back: CarryBack = (points, count) => {
    for (let k = 0; k < 2 * count; k += 2) {
      const [x, y, z] = directionAt(layout.projection, points[k]! + layout.bounds.x, points[k + 1]! + layout.bounds.y);
      const u = turn[0] * x + turn[1] * y + turn[2] * z;
      const v = turn[3] * x + turn[4] * y + turn[5] * z;
      const w = turn[6] * x + turn[7] * y + turn[8] * z;
      points[k] = full[0] / 2 + Math.atan2(u, w) * perRadian - crop[0];
      points[k + 1] = full[1] / 2 + Math.atan2(v, Math.hypot(u, w)) * perRadian - crop[1];
    }
  };
  const wide = await demoPhoto('lagoon-sweep_wide');
  const view = drain(resampleThrough(wide, back, panorama, kernels, { nodePx: 8 }));
  const sums = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < view.data.length; i += 4 * 37) {
    if (panorama.data[i + 3] !== 255 || view.data[i + 3] !== 255) continue;
    for (let c = 0; c < 3; c++) {
      sums[c]! += LINEAR_FROM_BYTE[panorama.data[i + c]!]!;
      sums[3 + c]! += LINEAR_FROM_BYTE[view.data[i + c]!]!;
    }
  }
  const out = createImage(view.width, view.height);
  for (let i = 0; i < out.data.length; i++) {
    const c = i % 4;
    out.data[i] =
      c === 3 ? 255 : byteFromLinear((LINEAR_FROM_BYTE[view.data[i]!]! * sums[c]!) / Math.max(1e-9, sums[3 + c]!));
  }
  return out;
}

const report = z.object({
  alignMs: z.number(),
  renderMs: z.number(),
  totalMs: z.number(),
  peakMemoryBytes: z.number(),
});

/** Five frames of 24 megapixels stitched from the command line, a process of its own: time and peak memory. */
export async function measureStitchCost(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'fingo-bench-'));
  const table: Table = {
    title: 'Five frames of 24 megapixels',
    about:
      'The lagoon’s frames enlarged with grain, stitched from the command line in a process of its own, files read and written; seconds by the clock and the most memory the process ever had.',
    columns: ['', 'align, s', 'put together, s', 'all, s', 'peak, MB'],
    rows: [],
  };
  try {
    const paths: string[] = [];
    for (let k = 1; k <= 5; k++) {
      const path = join(folder, `frame-${k}.jpg`);
      await enlarged(at(`public/demo/lagoon-sweep_${k}.jpg`), ENLARGED, path);
      paths.push(path);
    }
    const cli = fileURLToPath(new URL('../src/cli/main.ts', import.meta.url));
    const tsx = fileURLToPath(new URL('../node_modules/.bin/tsx', import.meta.url));
    const [out, figures] = [join(folder, 'panorama.png'), join(folder, 'report.json')];
    execFileSync(tsx, [cli, 'stitch', ...paths, '--out', out, '--report', figures]);
    const { alignMs, renderMs, totalMs, peakMemoryBytes } = report.parse(JSON.parse(await readFile(figures, 'utf8')));
    const { width, height } = await sharp(out).metadata();
    table.rows.push([
      `${width} × ${height} px`,
      alignMs / 1000,
      renderMs / 1000,
      totalMs / 1000,
      peakMemoryBytes / 1e6,
    ]);
  } finally {
    await rm(folder, { recursive: true });
  }
  return table;
}

const ENLARGED = { width: 5656, height: 4242 };
