import type { RasterImage } from '../image/rasterImage.ts';
import { createGridSolver } from '../blend/gridLaplacian.ts';
import type { Rect } from '../image/rect.ts';
import type { OffsetField } from './offsetField.ts';

/** How strongly the correction is pulled to zero per pixel: lets tone differences fade over some 1/sqrt(.004) px. */
const SCREENING = 0.004;

/** Where a pixel of the hole comes from: the index (into the region) of its source pixel, by work offset x factor. */
function sourceIndexAt(field: OffsetField, factor: number, width: number, x: number, y: number): number {
  const cell = Math.floor(y / factor) * field.width + Math.floor(x / factor);
  return (y + field.dy[cell]! * factor) * width + x + field.dx[cell]! * factor;
}

/**
 * Copies full-resolution pixels into the hole: every hole pixel of `image` inside `box` takes the pixel its work cell's
 * offset points at, so grain and sharpness come along. Returns the box's RGBA; pixels outside the hole are `image`'s.
 */
export function copySources(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  field: OffsetField,
  factor: number,
): RasterImage {
  const data = new Uint8ClampedArray(box.width * box.height * 4);
  for (let y = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++) {
      const at = (y + box.y) * image.width + x + box.x;
      const from = hole[at] ? sourceIndexAt(field, factor, image.width, x + box.x, y + box.y) : at;
      const to = (y * box.width + x) * 4;
      data[to] = image.data[4 * from]!;
      data[to + 1] = image.data[4 * from + 1]!;
      data[to + 2] = image.data[4 * from + 2]!;
      data[to + 3] = 255;
    }
  }
  return { width: box.width, height: box.height, data };
}

/**
 * The tone correction (three planes over `box`, in 8-bit levels) that closes the seams of `copySources`: a screened
 * Poisson field whose gradient is zero where neighbours were copied together, and closes the mean of both sources'
 * step where they were not; fixed at the hole's rim so that the copy's tone meets the known pixels'.
 * S. Darabi et al.: Image Melding, SIGGRAPH, 2012 (screened Poisson); P. Perez et al.: Poisson Image Editing, 2003.
 */
export function seamCorrection(
  image: RasterImage,
  hole: Uint8Array,
  box: Rect,
  field: OffsetField,
  factor: number,
): Float32Array[] {
  const { width } = image;
  const n = box.width * box.height;
  const system = {
    width: box.width,
    height: box.height,
    right: new Float32Array(n),
    down: new Float32Array(n),
    extra: new Float32Array(n),
  };
  const rightSides = [new Float32Array(n), new Float32Array(n), new Float32Array(n)];
  const pixels = image.data;

  // The edge from hole pixel p to its neighbour q, `step` apart: both in the hole, or q known.
  const joinHole = (i: number, j: number, p: number, q: number, sourceP: number, sourceQ: number): void => {
    const step = q - p;
    if (sourceQ - sourceP === step) return;
    const besideP = sourceP + step;
    const besideQ = sourceQ - step;
    if (hole[besideP] !== 0 || hole[besideQ] !== 0) return;
    for (let c = 0; c < 3; c++) {
      const rise =
        0.5 *
        (pixels[4 * besideQ + c]! - pixels[4 * sourceP + c]! + pixels[4 * sourceQ + c]! - pixels[4 * besideP + c]!);
      rightSides[c]![i]! += rise;
      rightSides[c]![j]! -= rise;
    }
  };
  const joinKnown = (i: number, p: number, q: number, sourceP: number): void => {
    const beside = sourceP + q - p;
    if (hole[beside] !== 0) return;
    system.extra[i]! += 1;
    for (let c = 0; c < 3; c++) rightSides[c]![i]! += pixels[4 * q + c]! - pixels[4 * beside + c]!;
  };

  for (let y = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++) {
      const i = y * box.width + x;
      const px = x + box.x;
      const py = y + box.y;
      const p = py * width + px;
      if (hole[p]) system.extra[i]! += SCREENING;
      const source = hole[p] ? sourceIndexAt(field, factor, width, px, py) : 0;
      for (let side = 0; side < 2; side++) {
        const across = side === 0;
        if (across ? px + 1 >= width : py + 1 >= image.height) continue;
        const q = across ? p + 1 : p + width;
        const j = across ? i + 1 : i + box.width;
        if (hole[p] && hole[q]) {
          (across ? system.right : system.down)[i] = 1;
          const sourceQ = sourceIndexAt(field, factor, width, across ? px + 1 : px, across ? py : py + 1);
          joinHole(i, j, p, q, source, sourceQ);
        } else if (hole[p]) {
          joinKnown(i, p, q, source);
        } else if (hole[q]) {
          joinKnown(j, q, p, sourceIndexAt(field, factor, width, across ? px + 1 : px, across ? py : py + 1));
        }
      }
    }
  }
  const solver = createGridSolver(system);
  // A hundredth of the steps to be closed is less than one level after rounding.
  return rightSides.map((rightSide) => solver.solve(rightSide, 1e-2, 8));
}
