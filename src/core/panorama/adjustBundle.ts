import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { multiplyHomographies } from '../geometry/homography.ts';
import type { Size } from '../image/rect.ts';
import { carryPoint, rotationAbout, type Camera } from './camera.ts';
import { strengthOf, type Overlap } from './overlaps.ts';

const MAX_ROUNDS = 40;
/** A relative gain below this ends the search. */
const SMALLEST_GAIN = 1e-7;
/** How far a lens is expected to bend, as the spread of `bend`. Little overlap says little about it. */
const USUAL_BEND = 0.05;

/**
 * Cameras that explain all overlaps together: turns, one focal length for each kind of frame (by its sides' lengths) and
 * one lens distortion, so that points carried from frame to frame lie as near to their partners as can be, in px of a
 * frame 2000 px wide. Levenberg-Marquardt with Huber's loss; the turn of the first frame of `frames` is kept.
 * M. Brown, D. Lowe: Automatic Panoramic Image Stitching using Invariant Features, IJCV 2007, section 4; B. Triggs et
 * al.: Bundle Adjustment, a Modern Synthesis, 2000.
 *
 * @param frames the frames to adjust, by index; only overlaps between two of them count
 * @param outlierPx deviations beyond this count linearly
 * @param withBend whether lens distortion is looked for
 */
export function adjustBundle(
  start: readonly Camera[],
  sizes: readonly Size[],
  overlaps: readonly Overlap[],
  frames: readonly number[],
  outlierPx: number,
  withBend: boolean,
): Camera[] {
  const wanted = overlaps.filter(({ a, b }) => frames.includes(a) && frames.includes(b));
  const lenses = lensesOf(sizes, frames);
  const turned = frames.slice(1);
  const unknowns = 3 * turned.length + lenses.kinds + (withBend ? 1 : 0);
  let cameras = [...start];
  let damping = 1e-3;
  let system = linearise(cameras, sizes, wanted, { lenses, turned, unknowns, outlierPx, withBend });
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const step = solve(system, damping);
    const moved = step && applyStep(cameras, step, { lenses, turned, withBend });
    const next = moved && linearise(moved, sizes, wanted, { lenses, turned, unknowns, outlierPx, withBend });
    if (next && next.cost < system.cost) {
      const gain = (system.cost - next.cost) / system.cost;
      [cameras, system] = [moved, next];
      damping = Math.max(1e-9, damping / 8);
      if (gain < SMALLEST_GAIN) break;
    } else {
      damping *= 10;
      if (damping > 1e6) break;
    }
  }
  return cameras;
}

/** How far each pair of an overlap lies apart, px of a frame 2000 px wide; Infinity for what lies behind. */
export function deviationsOf(overlap: Overlap, cameras: readonly Camera[], sizes: readonly Size[]): Float64Array {
  const { a, b, from, to } = overlap;
  const out = [0, 0, 0];
  const scale = WIDTH_PX / Math.max(sizes[b]!.width, sizes[b]!.height);
  return Float64Array.from({ length: strengthOf(overlap) }, (_, k) => {
    carryPoint(from[2 * k]!, from[2 * k + 1]!, cameras[a]!, sizes[a]!, cameras[b]!, sizes[b]!, out);
    const off = Math.hypot(out[0]! - to[2 * k]!, out[1]! - to[2 * k + 1]!) * scale;
    return Number.isFinite(off) ? off : Infinity;
  });
}

const WIDTH_PX = 2000;

interface Lenses {
  kinds: number;
  /** By frame; -1 for those not adjusted. */
  kindOf: number[];
}

function lensesOf(sizes: readonly Size[], frames: readonly number[]): Lenses {
  const names: string[] = [];
  const kindOf = sizes.map(({ width, height }, frame) => {
    if (!frames.includes(frame)) return -1;
    // A frame taken upright is of the same kind as one taken across.
    const name = `${Math.max(width, height)} ${Math.min(width, height)}`;
    if (!names.includes(name)) names.push(name);
    return names.indexOf(name);
  });
  return { kinds: names.length, kindOf };
}

interface Layout {
  lenses: Lenses;
  turned: readonly number[];
  withBend: boolean;
}

function applyStep(
  cameras: readonly Camera[],
  step: readonly number[],
  { lenses, turned, withBend }: Layout,
): Camera[] {
  const lens = 3 * turned.length;
  return cameras.map((camera, frame) => {
    const kind = lenses.kindOf[frame]!;
    if (kind < 0) return camera;
    const at = 3 * turned.indexOf(frame);
    const rotation =
      at < 0
        ? camera.rotation
        : multiplyHomographies(rotationAbout(step[at]!, step[at + 1]!, step[at + 2]!), camera.rotation);
    const focalPx = camera.focalPx * Math.exp(Math.max(-0.5, Math.min(0.5, step[lens + kind]!)));
    return { rotation, focalPx, bend: camera.bend + (withBend ? step[lens + lenses.kinds]! : 0) };
  });
}

interface NormalSystem {
  cost: number;
  matrix: Float64Array;
  right: Float64Array;
  unknowns: number;
}

const DELTA = 1e-6;

function linearise(
  cameras: readonly Camera[],
  sizes: readonly Size[],
  overlaps: readonly Overlap[],
  { lenses, turned, withBend, unknowns, outlierPx }: Layout & { unknowns: number; outlierPx: number },
): NormalSystem {
  const matrix = new Float64Array(unknowns * unknowns);
  const right = new Float64Array(unknowns);
  let cost = 0;
  const lens = 3 * turned.length;
  const point = [0, 0, 0];
  for (const { a, b, from, to } of overlaps) {
    const scale = WIDTH_PX / Math.max(sizes[b]!.width, sizes[b]!.height);
    const places = placesOf(a, b, { lenses, turned, withBend });
    // Each unknown moved by a little, once for the whole overlap.
    const varied = places.map((place) => {
      const step = new Array<number>(unknowns).fill(0);
      step[place] = DELTA;
      const moved = applyStep([cameras[a]!, cameras[b]!], step, {
        lenses: { kinds: lenses.kinds, kindOf: [lenses.kindOf[a]!, lenses.kindOf[b]!] },
        turned: turned.map((frame) => (frame === a ? 0 : frame === b ? 1 : -1)),
        withBend,
      });
      return moved as [Camera, Camera];
    });
    const [dx, dy] = [new Float64Array(places.length), new Float64Array(places.length)];
    for (let k = 0; k < from.length; k += 2) {
      carryPoint(from[k]!, from[k + 1]!, cameras[a]!, sizes[a]!, cameras[b]!, sizes[b]!, point);
      const [x, y] = [point[0]!, point[1]!];
      if (!Number.isFinite(x)) {
        cost += outlierPx * WIDTH_PX;
        continue;
      }
      const [ex, ey] = [scale * (x - to[k]!), scale * (y - to[k + 1]!)];
      const off = Math.hypot(ex, ey);
      const weight = off > outlierPx ? outlierPx / off : 1;
      cost += off > outlierPx ? outlierPx * (2 * off - outlierPx) : off * off;
      for (let i = 0; i < places.length; i++) {
        carryPoint(from[k]!, from[k + 1]!, varied[i]![0], sizes[a]!, varied[i]![1], sizes[b]!, point);
        dx[i] = (scale * (point[0]! - x)) / DELTA;
        dy[i] = (scale * (point[1]! - y)) / DELTA;
      }
      for (let i = 0; i < places.length; i++) {
        const row = places[i]! * unknowns;
        right[places[i]!]! -= weight * (dx[i]! * ex + dy[i]! * ey);
        for (let j = 0; j < places.length; j++)
          matrix[row + places[j]!]! += weight * (dx[i]! * dx[j]! + dy[i]! * dy[j]!);
      }
    }
  }
  if (withBend) {
    const at = lens + lenses.kinds;
    const bend = cameras[overlaps[0]?.a ?? 0]!.bend;
    const stiffness = 1 / USUAL_BEND ** 2;
    cost += stiffness * bend * bend;
    matrix[at * unknowns + at]! += stiffness;
    right[at]! -= stiffness * bend;
  }
  return { cost, matrix, right, unknowns };
}

/** The unknowns that a pair of frames depends on. */
function placesOf(a: number, b: number, { lenses, turned, withBend }: Layout): number[] {
  const places: number[] = [];
  for (const frame of [a, b]) {
    const at = turned.indexOf(frame);
    if (at >= 0) places.push(3 * at, 3 * at + 1, 3 * at + 2);
  }
  const lens = 3 * turned.length;
  places.push(...new Set([lens + lenses.kindOf[a]!, lens + lenses.kindOf[b]!]));
  if (withBend) places.push(lens + lenses.kinds);
  return places;
}

function solve({ matrix, right, unknowns }: NormalSystem, damping: number): number[] | undefined {
  const damped = new Matrix(unknowns, unknowns);
  for (let i = 0; i < unknowns; i++) {
    for (let j = 0; j < unknowns; j++) damped.set(i, j, matrix[i * unknowns + j]!);
    damped.set(i, i, matrix[i * unknowns + i]! * (1 + damping) + 1e-9);
  }
  const parts = new CholeskyDecomposition(damped);
  if (!parts.isPositiveDefinite()) return undefined;
  return parts.solve(Matrix.columnVector([...right])).to1DArray();
}
