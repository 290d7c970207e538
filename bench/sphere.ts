import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { pictureOf, workshopOn } from '../src/cli/writeTakes.ts';
import { blurPlane } from '../src/core/image/boxBlur.ts';
import type { RasterImage } from '../src/core/image/rasterImage.ts';
import { wholeOf } from '../src/core/image/rect.ts';
import type { Kernels } from '../src/core/kernels/kernels.ts';
import { squaredDistanceTo } from '../src/core/mask/distanceTransform.ts';
import { createMask, type Mask } from '../src/core/mask/mask.ts';
import { growMask } from '../src/core/mask/morphology.ts';
import { drain } from '../src/core/progress.ts';
import { cropSphere, pixelsOf } from '../src/core/sphere/lookAround.ts';
import { sphereToView, viewSize, type SphereView } from '../src/core/sphere/sphereView.ts';
import { writeMask, writePicture, readPicture } from '../src/formats/node/pictureFiles.ts';
import { markFromMask } from '../src/operations/marks/renderMark.ts';
import { markSchema, type Mark } from '../src/operations/marks/markSchema.ts';
import { clear } from '../src/operations/kinds/clear/index.ts';
import { layOnSphere, seeSphere } from '../src/operations/sphere/seeSphere.ts';
import { distinctTakes, MAX_TAKES } from '../src/operations/takes.ts';
import { flatFill, membraneFill } from './baselines.ts';
import { enlarged } from './enlarged.ts';
import { cells, fidelity } from './fidelity.ts';
import { at, demoPhoto, truthPhoto } from './scenes.ts';
import type { Table } from './table.ts';

const signal = new AbortController().signal;
/** What lies farther from the mark than a view's rim is told apart as outside, px of the view. */
const RIM_PX = 8;
/** Differences between photo and clean plate from which on something of the tripod is supposed, levels. */
const DIFFERENCE = 9;
const GROWN_PX = 12;

const straightDown = (sphere: { width: number; height: number }): SphereView => ({
  yaw: 0,
  pitch: -90,
  roll: 0,
  fov: 100,
  ...viewSize(100, 1, sphere),
});

/** What differs between two pictures, with some px around it, as a hand would mark it. */
function differing(a: RasterImage, b: RasterImage): Mask {
  const plane = new Float32Array(a.width * a.height);
  for (let i = 0; i < plane.length; i++) {
    for (let c = 4 * i; c < 4 * i + 3; c++) plane[i] = Math.max(plane[i]!, Math.abs(a.data[c]! - b.data[c]!));
  }
  const smooth = blurPlane(plane, a.width, a.height, 3);
  const mask = createMask(a.width, a.height);
  for (let i = 0; i < plane.length; i++) mask.data[i] = smooth[i]! > DIFFERENCE ? 255 : 0;
  return growMask(mask, GROWN_PX);
}

const clearingIn = (view: SphereView, mark: Mark) =>
  clear.schema.parse({ mark, view, take: { strategy: clear.strategies[0], seed: 1 } });

/** The demo sphere's tripod and its shadow cleared straight down, compared with the empty square. */
export async function measureSphere(folder: string, kernels: Kernels): Promise<Table> {
  const table: Table = {
    title: 'Tripod cleared from a sphere',
    about:
      'Tripod and shadow of the demo sphere marked and cleared in a direct view straight down (100 degrees), written back, looked at again, and compared there with the empty square; measures as in the quality table. Outside: the largest change, in levels, of any px of the sphere that the view shows farther than 8 px from the mark, or not at all.',
    columns: ['', 'tone', 'texture', 'lines', 'seam', 'outside'],
    rows: [],
  };
  const sphere = await demoPhoto('square-360');
  const view = straightDown(sphere);
  const [photo, truth] = [sphere, await truthPhoto('square-360_clean-plate')].map((picture) =>
    drain(seeSphere(picture, view, [], kernels)),
  ) as [RasterImage, RasterImage];
  const mask = differing(photo, truth);
  table.rows.push(['flat fill', ...cells(fidelity(flatFill(photo, mask), truth, mask)), '']);
  table.rows.push(['membrane', ...cells(fidelity(membraneFill(photo, mask), truth, mask)), '']);
  const workshop = workshopOn(sphere, 'sphere');
  const params = clearingIn(view, markFromMask(mask));
  const made = await workshop.makeTakes(workshop.origin, 'clear', params, 0, { signal, count: MAX_TAKES });
  for (const [k, { spec, result }] of distinctTakes(made).entries()) {
    const after = await pictureOf(await workshop.after(workshop.origin, 'clear', params, result));
    const seen = drain(seeSphere(after, view, [], kernels));
    const figures = cells(fidelity(seen, truth, mask));
    table.rows.push([`take ${k + 1}: ${spec.strategy}`, ...figures, outside(sphere, after, view, mask)]);
    await writePicture(`${folder}sphere-down-${k + 1}.png`, seen);
  }
  return table;
}

/** The largest change of a px of the sphere that lies away from the mark. */
function outside(before: RasterImage, after: RasterImage, view: SphereView, mask: Mask): number {
  const distance = squaredDistanceTo(mask, true);
  const forward = sphereToView(view, before);
  const point = new Float64Array(2);
  let most = 0;
  for (let i = 0; i < before.data.length; i += 4) {
    const change = Math.max(...[0, 1, 2].map((c) => Math.abs(before.data[i + c]! - after.data[i + c]!)));
    if (change <= most) continue;
    point[0] = ((i / 4) % before.width) + 0.5;
    point[1] = Math.floor(i / 4 / before.width) + 0.5;
    forward(point, 1);
    const [x, y] = [Math.floor(point[0]), Math.floor(point[1])];
    const isNear =
      x >= 0 && y >= 0 && x < view.width && y < view.height && distance[y * view.width + x]! <= RIM_PX ** 2;
    if (!isNear) most = change;
  }
  return most;
}

/** A place across the wrap cleared: how its gradients there compare with those where there is no wrap. */
export async function measureWrap(): Promise<Table> {
  const table: Table = {
    title: 'Across the wrap',
    about:
      'A disc of 21 degrees on the floor where left and right edge of the sphere meet, cleared in a direct view, six takes together: mean gradient between the outermost columns as a share of that between the neighbours up to 4 px away, over the rows that were changed. Beside it the same of the same place on the sphere rolled on by half, where it lies in the middle of the picture: equal shares = no seam.',
    columns: ['', 'at the wrap', 'rolled to the middle'],
    rows: [],
  };
  const sphere = await demoPhoto('square-360');
  const half = sphere.width / 2;
  const rolled = cropSphere(pixelsOf(sphere), { ...wholeOf(sphere), x: half });
  const shares: [number, number][] = [];
  for (const [picture, yaw, column] of [
    [sphere, 180, sphere.width - 1],
    [rolled, 0, half - 1],
  ] as const) {
    const view: SphereView = { yaw, pitch: -35, roll: 0, fov: 70, ...viewSize(70, 1, sphere) };
    const points = [view.width / 2, view.height / 2];
    const disc = { kind: 'stroke', combine: 'also', points, radiusPx: view.width * 0.15, hardness: 1, intensity: 1 };
    const params = clearingIn(view, markSchema.parse({ shapes: [disc] }));
    const workshop = workshopOn(picture, 'sphere');
    const made = await workshop.makeTakes(workshop.origin, 'clear', params, 0, { signal, count: MAX_TAKES });
    let [before, after] = [0, 0];
    for (const { result } of made) {
      const changed = await pictureOf(await workshop.after(workshop.origin, 'clear', params, result));
      const rows = changedRows(picture, changed, column);
      before += share(picture, rows, column) / made.length;
      after += share(changed, rows, column) / made.length;
    }
    shares.push([before, after]);
  }
  for (const [k, name] of ['before', 'after'].entries()) table.rows.push([name, ...shares.map((pair) => pair[k]!)]);
  return table;
}

/** The gradient from a column to the next as a share of its neighbours'. */
function share(image: RasterImage, rows: readonly number[], column: number): number {
  let beside = 0;
  for (let k = 1; k <= 4; k++) beside += (gradient(image, rows, column - k) + gradient(image, rows, column + k)) / 8;
  return gradient(image, rows, column) / beside;
}

/** The rows in which a column was changed. */
function changedRows(before: RasterImage, after: RasterImage, column: number): number[] {
  return Array.from({ length: before.height }, (_, y) => y).filter((y) => {
    const i = 4 * (y * before.width + column);
    return [0, 1, 2].some((c) => before.data[i + c] !== after.data[i + c]);
  });
}

/** Sum of absolute differences between a column and the next, going round. */
function gradient({ width, data }: RasterImage, rows: readonly number[], column: number): number {
  const [left, right] = [(column + width) % width, (column + 1 + width) % width];
  let sum = 0;
  for (const y of rows) {
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * (y * width + left) + c]! - data[4 * (y * width + right) + c]!);
  }
  return sum;
}

const LARGE = { width: 11_000, height: 5500 };
const report = z.object({
  decodeMs: z.number(),
  writeMs: z.number(),
  totalMs: z.number(),
  peakMemoryBytes: z.number(),
});

/** A sphere of 60 megapixels: looking down, writing back, and a whole clear from the command line. */
export async function measureSphereCost(kernels: Kernels): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'fingo-bench-'));
  const table: Table = {
    title: 'A sphere of 11,000 x 5,500 px',
    about:
      'The demo sphere enlarged with grain. A direct view straight down; a disc of 4 % of it written back; a first take of the same cleared from the command line, in a process of its own, file read and written. Seconds by the clock; the most memory that process ever had.',
    columns: ['', 's', 'peak, MB'],
    rows: [],
  };
  try {
    const [large, maskPath, out, figures] = ['large.jpg', 'mask.png', 'out.jpg', 'report.json'].map((name) =>
      join(folder, name),
    ) as [string, string, string, string];
    await enlarged(at('public/demo/square-360.jpg'), LARGE, large);
    const view = straightDown(LARGE);
    const mask = createMask(view.width, view.height);
    const radius = Math.sqrt((0.04 * view.width * view.height) / Math.PI);
    for (let i = 0; i < mask.data.length; i++) {
      const [x, y] = [i % view.width, Math.floor(i / view.width)];
      if (Math.hypot(x - view.width / 2, y - view.height / 2) < radius) mask.data[i] = 255;
    }
    await writeMask(maskPath, mask);
    const { image } = await readPicture(large);
    let clock = performance.now();
    const lap = (): number => {
      const spent = performance.now() - clock;
      clock += spent;
      return spent / 1000;
    };
    const seen = drain(seeSphere(image, view, [], kernels));
    table.rows.push([`direct view, ${view.width} x ${view.height} px`, lap(), '']);
    const red = { ...seen, data: seen.data.slice() };
    for (let i = 0; i < mask.data.length; i++) if (mask.data[i]) red.data[4 * i] = 255;
    clock = performance.now();
    drain(layOnSphere(image, view, [], seen, [{ rect: wholeOf(view), image: red }], kernels));
    table.rows.push(['written back', lap(), '']);
    const cli = fileURLToPath(new URL('../src/cli/main.ts', import.meta.url));
    const tsx = fileURLToPath(new URL('../node_modules/.bin/tsx', import.meta.url));
    execFileSync(tsx, [
      ...[cli, 'clear', large, '--sphere', '--view', '0,-90,100', '--mark', maskPath],
      ...['--out', out, '--report', figures],
    ]);
    const { totalMs, peakMemoryBytes } = report.parse(JSON.parse(await readFile(figures, 'utf8')));
    table.rows.push(['cleared from the command line', totalMs / 1000, Math.round(peakMemoryBytes / 1e6)]);
  } finally {
    await rm(folder, { recursive: true });
  }
  return table;
}
