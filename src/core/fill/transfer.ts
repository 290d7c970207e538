import { createGridSolver } from '../blend/gridLaplacian.ts';
import { LANES } from '../blend/gridSteps.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { SourceField } from './offsetField.ts';

/** How strongly the correction is pulled to zero per pixel: lets tone differences fade over some 1/sqrt(.004) px. */
const SCREENING = 0.004;
/** The correction of a larger box is solved on blocks of pixels. */
const MOST_UNKNOWNS = 500_000;

/**
 * Copies full-resolution pixels into the hole: every hole pixel of `image` inside `box` takes the pixel its work cell's
 * shift points at, so grain and sharpness come along. Returns the box's RGBA; pixels outside the hole are `image`'s.
 */
export function copySources(image: RasterImage, hole: Uint8Array, box: Rect, field: SourceField): RasterImage {
  const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const out = new Uint32Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const row = (y + box.y) * image.width + box.x;
    out.set(from.subarray(row, row + box.width), y * box.width);
    const cells = Math.floor((y + box.y) / field.factor) * field.width;
    for (let x = 0; x < box.width; x++) {
      if (!hole[row + x]) continue;
      const shift = field.shift[cells + Math.floor((x + box.x) / field.factor)]!;
      out[y * box.width + x] = from[row + x + shift]!;
    }
  }
  return { width: box.width, height: box.height, data: new Uint8ClampedArray(out.buffer) };
}

/** A tone correction in blocks of pixels that are copied together. */
export interface SeamCorrection {
  /** Adds `share` of the correction to pixel (x, y) of the region, given as three levels in `levels`. */
  addTo(levels: Float32Array, x: number, y: number, share: number): void;
}

/**
 * The tone correction (in 8-bit levels) that closes the seams of `copySources`: a screened Poisson field whose gradient
 * is zero where neighbours were copied together, and closes the mean of both sources' step where they were not; fixed
 * at the hole's rim so that the copy's tone meets the known pixels'. Large boxes are solved on square blocks, between
 * whose centres it is interpolated as far as they are copied together.
 * S. Darabi et al.: Image Melding, SIGGRAPH, 2012 (screened Poisson); P. Perez et al.: Poisson Image Editing, 2003.
 */
export function seamCorrection(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  field: SourceField,
  kernels: Kernels,
): SeamCorrection {
  const side = blockSide(box, field.factor);
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
  const shiftOf = (x: number, y: number): number =>
    field.shift[Math.floor(y / field.factor) * field.width + Math.floor(x / field.factor)]!;

  const joinHole = (i: number, j: number, p: number, q: number, shiftP: number, shiftQ: number): void => {
    if (shiftP === shiftQ) return;
    const besideP = q + shiftP;
    const besideQ = p + shiftQ;
    if (hole[besideP] !== 0 || hole[besideQ] !== 0) return;
    for (let c = 0; c < 3; c++) {
      const rise =
        0.5 *
        inner *
        (data[4 * besideQ + c]! - data[4 * (p + shiftP) + c]! + data[4 * (q + shiftQ) + c]! - data[4 * besideP + c]!);
      rightSides[LANES * i + c]! += rise;
      rightSides[LANES * j + c]! -= rise;
    }
  };
  const joinKnown = (i: number, q: number, shiftP: number): void => {
    const beside = q + shiftP;
    if (hole[beside] !== 0) return;
    system.extra[i]! += outer;
    for (let c = 0; c < 3; c++) rightSides[LANES * i + c]! += outer * (data[4 * q + c]! - data[4 * beside + c]!);
  };

  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const p = y * image.width + x;
      const i = (Math.floor(y / side) - top) * width + Math.floor(x / side) - across;
      const inHole = hole[p] !== 0;
      const shift = inHole ? shiftOf(x, y) : 0;
      if (inHole) system.extra[i]! += SCREENING;
      for (let way = 0; way < 2; way++) {
        const u = way === 0 ? x + 1 : x;
        const v = way === 0 ? y : y + 1;
        if (u >= image.width || v >= image.height) continue;
        const q = v * image.width + u;
        if (hole[q]) {
          const j = (Math.floor(v / side) - top) * width + Math.floor(u / side) - across;
          if (!inHole) joinKnown(j, p, shiftOf(u, v));
          else if (i !== j) {
            (way === 0 ? system.right : system.down)[i]! += inner;
            joinHole(i, j, p, q, shift, shiftOf(u, v));
          }
        } else if (inHole) joinKnown(i, q, shift);
      }
      // Known pixels left of and above the box's first column and row.
      if (inHole && x === box.x && x > 0) joinKnown(i, p - 1, shift);
      if (inHole && y === box.y && y > 0) joinKnown(i, p - image.width, shift);
    }
  }
  // A hundredth of the steps to be closed is less than one level after rounding.
  const solution = createGridSolver(system, kernels).solve(rightSides, 1e-2, 8);
  if (side === 1) {
    return {
      addTo(levels, x, y, share) {
        const at = ((y - top) * width + x - across) * LANES;
        for (let c = 0; c < 3; c++) levels[c]! += share * solution[at + c]!;
      },
    };
  }
  const shifts = Int32Array.from({ length: n }, (_, i) =>
    shiftOf(((i % width) + across) * side, (Math.floor(i / width) + top) * side),
  );
  const inDomain = Uint8Array.from(system.extra, (pull) => (pull > 0 ? 1 : 0));
  return {
    addTo(levels, x, y, share) {
      const fx = (x + 0.5) / side - 0.5 - across;
      const fy = (y + 0.5) / side - 0.5 - top;
      const x0 = Math.floor(fx);
      const y0 = Math.floor(fy);
      const own = (Math.floor(y / side) - top) * width + Math.floor(x / side) - across;
      for (let corner = 0; corner < 4; corner++) {
        const u = x0 + (corner & 1);
        const v = y0 + (corner >> 1);
        const weight = (corner & 1 ? fx - x0 : 1 - fx + x0) * (corner >> 1 ? fy - y0 : 1 - fy + y0);
        const block = v * width + u;
        const together =
          u >= 0 && v >= 0 && u < width && v < height && inDomain[block] && shifts[block] === shifts[own];
        const at = LANES * (together ? block : own);
        for (let c = 0; c < 3; c++) levels[c]! += share * weight * solution[at + c]!;
      }
    },
  };
}

/** The smallest side of blocks that divide a work cell and keep the number of unknowns bounded. */
function blockSide(box: Rect, factor: number): number {
  for (let side = 1; side < factor; side++) {
    if (factor % side === 0 && box.width * box.height <= MOST_UNKNOWNS * side * side) return side;
  }
  return factor;
}
