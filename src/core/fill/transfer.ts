import { createGridSolver } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Sources } from './sources.ts';

/** How strongly the correction is pulled to zero per pixel: lets tone differences fade over some 1/sqrt(.004) px. */
const SCREENING = 0.004;
/** The correction of a larger box is solved on blocks of pixels. */
const MOST_UNKNOWNS = 500_000;

/**
 * Adds to `out` (RGBA of `box`, holding what `sources` copied into `part`) the tone correction that closes its seams: a screened Poisson field whose gradient
 * is zero where neighbours were copied together, and closes the mean of both sources' step where they were not; fixed
 * at the part's rim so that the copy's tone meets the known pixels'; free towards what is `unknown` but not of the part.
 * Large boxes are solved on square blocks, between
 * whose centres it is interpolated as far as they are copied together.
 * S. Darabi et al.: Image Melding, SIGGRAPH, 2012 (screened Poisson); P. Perez et al.: Poisson Image Editing, 2003.
 */
export function closeSeams(
  image: RasterImage,
  unknown: Uint8Array,
  part: Uint8Array,
  box: Rect,
  sources: Sources,
  out: Uint8ClampedArray,
  kernels: Kernels,
): void {
  const side = blockSide(box, sources.cell);
  const across = Math.floor(box.x / side);
  const top = Math.floor(box.y / side);
  const width = Math.floor((box.x + box.width - 1) / side) - across + 1;
  const height = Math.floor((box.y + box.height - 1) / side) - top + 1;
  const n = width * height;
  const system = {
    width,
    height,
    right: new Float32Array(n),
    down: new Float32Array(n),
    extra: new Float32Array(n),
  };
  const rightSides = new Float32Array(n * LANES);
  const { data } = image;
  // Between centres of blocks lie `side` pixels, from a centre to the known pixel beside the block half as many.
  const inner = 1 / side;
  const outer = 2 / (side + 1);
  const here = new Float32Array(3);
  const there = new Float32Array(3);
  const beside = new Float32Array(3);
  const besideThere = new Float32Array(3);

  const joinParts = (
    i: number,
    j: number,
    x: number,
    y: number,
    u: number,
    v: number,
    own: number,
    other: number,
  ): void => {
    if (own === other) return;
    if (!sources.sample(own, u, v, beside) || !sources.sample(other, x, y, besideThere)) return;
    if (!sources.sample(own, x, y, here) || !sources.sample(other, u, v, there)) return;
    for (let c = 0; c < 3; c++) {
      const rise = 0.5 * inner * (besideThere[c]! - here[c]! + there[c]! - beside[c]!);
      rightSides[LANES * i + c]! += rise;
      rightSides[LANES * j + c]! -= rise;
    }
  };
  const joinKnown = (i: number, u: number, v: number, group: number): void => {
    if (!sources.sample(group, u, v, beside)) return;
    system.extra[i]! += outer;
    const q = 4 * (v * image.width + u);
    for (let c = 0; c < 3; c++) rightSides[LANES * i + c]! += outer * (data[q + c]! - beside[c]!);
  };

  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const p = y * image.width + x;
      const i = (Math.floor(y / side) - top) * width + Math.floor(x / side) - across;
      const inPart = part[p] !== 0;
      const isKnown = unknown[p] === 0;
      if (!inPart && !isKnown) continue;
      const group = inPart ? sources.groupAt(x, y) : 0;
      if (inPart) system.extra[i]! += SCREENING;
      for (let way = 0; way < 2; way++) {
        const u = way === 0 ? x + 1 : x;
        const v = way === 0 ? y : y + 1;
        if (u >= image.width || v >= image.height) continue;
        const q = v * image.width + u;
        if (part[q]) {
          const j = (Math.floor(v / side) - top) * width + Math.floor(u / side) - across;
          if (isKnown) joinKnown(j, x, y, sources.groupAt(u, v));
          else if (i !== j) {
            (way === 0 ? system.right : system.down)[i]! += inner;
            joinParts(i, j, x, y, u, v, group, sources.groupAt(u, v));
          }
        } else if (inPart && unknown[q] === 0) joinKnown(i, u, v, group);
      }
      // Known pixels left of and above the box's first column and row.
      if (inPart && x === box.x && x > 0 && unknown[p - 1] === 0) joinKnown(i, x - 1, y, group);
      if (inPart && y === box.y && y > 0 && unknown[p - image.width] === 0) joinKnown(i, x, y - 1, group);
    }
  }
  // A hundredth of the steps to be closed is less than one level after rounding.
  const solution = createGridSolver(system, kernels).solve(rightSides, 1e-2, 8);
  if (side === 1) {
    for (let y = box.y; y < box.y + box.height; y++) {
      for (let x = box.x; x < box.x + box.width; x++) {
        if (!part[y * image.width + x]) continue;
        const at = ((y - top) * width + x - across) * LANES;
        const to = 4 * ((y - box.y) * box.width + x - box.x);
        out[to] = out[to]! + solution[at]!;
        out[to + 1] = out[to + 1]! + solution[at + 1]!;
        out[to + 2] = out[to + 2]! + solution[at + 2]!;
      }
    }
    return;
  }
  const groups = Float64Array.from({ length: n }, (_, i) =>
    sources.groupAt(((i % width) + across) * side, (Math.floor(i / width) + top) * side),
  );
  for (let y = box.y; y < box.y + box.height; y++) {
    const fy = (y + 0.5) / side - 0.5 - top;
    const y0 = Math.floor(fy);
    for (let x = box.x; x < box.x + box.width; x++) {
      if (!part[y * image.width + x]) continue;
      const fx = (x + 0.5) / side - 0.5 - across;
      const x0 = Math.floor(fx);
      const own = (Math.floor(y / side) - top) * width + Math.floor(x / side) - across;
      let [red, green, blue] = [0, 0, 0];
      for (let corner = 0; corner < 4; corner++) {
        const u = x0 + (corner & 1);
        const v = y0 + (corner >> 1);
        const weight = (corner & 1 ? fx - x0 : 1 - fx + x0) * (corner >> 1 ? fy - y0 : 1 - fy + y0);
        const block = v * width + u;
        const together =
          u >= 0 && v >= 0 && u < width && v < height && system.extra[block]! > 0 && groups[block] === groups[own];
        const at = LANES * (together ? block : own);
        red += weight * solution[at]!;
        green += weight * solution[at + 1]!;
        blue += weight * solution[at + 2]!;
      }
      const to = 4 * ((y - box.y) * box.width + x - box.x);
      out[to] = out[to]! + red;
      out[to + 1] = out[to + 1]! + green;
      out[to + 2] = out[to + 2]! + blue;
    }
  }
}

/** The smallest side of blocks that divide a work cell and keep the number of unknowns bounded. */
function blockSide(box: Rect, factor: number): number {
  for (let side = 1; side < factor; side++) {
    if (factor % side === 0 && box.width * box.height <= MOST_UNKNOWNS * side * side) return side;
  }
  return factor;
}
