import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole, PartMask } from '../mask/byteMasks.ts';
import type { SquareShifts } from './offsetField.ts';

/** Where the pixels of a part of the hole are copied from. Coordinates are the region's. */
export interface Sources {
  /** Which pixels are copied together, undistorted against each other: those with equal groups. */
  groupAt(x: number, y: number): number;
  /**
   * Writes the colour that pixel (x, y) has if copied the way `group` is into `out` (three levels); false where that
   * lies outside the picture or in the hole.
   */
  sample(group: number, x: number, y: number, out: Float32Array): boolean;
  /** Where the pixel's colour is copied from. */
  sourceOf(x: number, y: number): { x: number; y: number };
  /** Tone is corrected on blocks up to this side, in photo pixels, where the part is large. */
  readonly largestBlock: number;
  /** Writes the colours of all pixels of `part` (non-zero) inside `box` into `out`, RGBA of the box. */
  copy(part: PartMask, box: Rect, out: Uint8ClampedArray): void;
  /** Of sources that can be told to other threads: which they are, as what arrives there has no methods. */
  readonly kind?: 'shifted' | 'onPlane' | 'bent';
  /** The same, with their arrays where other threads can read them. */
  shared?(kernels: Pick<Kernels, 'share'>): Sources;
}

/** `Sources.copy` by sampling pixel after pixel; what can't be sampled is left as it is. */
export function copySampled(
  sample: Sources['sample'],
  groupAt: Sources['groupAt'],
  width: number,
  part: PartMask,
  box: Rect,
  out: Uint8ClampedArray,
): void {
  const colour = new Float32Array(3);
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      if (!part[y * width + x] || !sample(groupAt(x, y), x, y, colour)) continue;
      const to = 4 * ((y - box.y) * box.width + x - box.x);
      out.set(colour, to);
      out[to + 3] = 255;
    }
  }
}

/**
 * Sources at whole-pixel offsets in the picture itself, from squares of a part of it. `hole` tells where nothing may be
 * copied from; tone is corrected on blocks up to `largestBlock` px.
 */
export function shiftedSources(
  image: RasterImage,
  hole: Hole,
  { dx, dy, factor, width: cellsAcross, left, top }: SquareShifts,
  largestBlock: number,
): Sources {
  const origin = { x: left, y: top };
  const shift = new Int32Array(dx.length);
  for (let i = 0; i < dx.length; i++) shift[i] = dy[i]! * image.width + dx[i]!;
  const { data, width } = image;
  return new ShiftedSources({ largestBlock, data, width, hole, origin, factor, cellsAcross, shift });
}

interface ShiftedData {
  largestBlock: number;
  data: Uint8ClampedArray;
  width: number;
  hole: Hole;
  origin: { x: number; y: number };
  factor: number;
  cellsAcross: number;
  /** What is added to a pixel's index to reach where it is copied from, for each cell. */
  shift: Int32Array;
}

export class ShiftedSources implements Sources, ShiftedData {
  readonly kind = 'shifted';
  readonly largestBlock: number;
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly hole: Hole;
  readonly origin: { x: number; y: number };
  readonly factor: number;
  readonly cellsAcross: number;
  readonly shift: Int32Array;

  constructor({ largestBlock, data, width, hole, origin, factor, cellsAcross, shift }: ShiftedData) {
    this.largestBlock = largestBlock;
    this.data = data;
    this.width = width;
    this.hole = hole;
    this.origin = origin;
    this.factor = factor;
    this.cellsAcross = cellsAcross;
    this.shift = shift;
  }

  shared({ share }: Pick<Kernels, 'share'>): ShiftedSources {
    return new ShiftedSources({
      ...this,
      data: share(this.data),
      hole: share(this.hole),
      shift: share(this.shift),
    });
  }

  groupAt(x: number, y: number): number {
    const { origin, factor } = this;
    return this.shift[Math.floor((y - origin.y) / factor) * this.cellsAcross + Math.floor((x - origin.x) / factor)]!;
  }

  sourceOf(x: number, y: number): { x: number; y: number } {
    const from = y * this.width + x + this.groupAt(x, y);
    return { x: from % this.width, y: Math.floor(from / this.width) };
  }

  sample(group: number, x: number, y: number, out: Float32Array): boolean {
    const { data, hole, width } = this;
    const from = y * width + x + group;
    if (hole[from] !== 0) return false;
    for (let c = 0; c < 3; c++) out[c] = data[4 * from + c]!;
    return true;
  }

  copy(part: PartMask, box: Rect, out: Uint8ClampedArray): void {
    const from = new Uint32Array(this.data.buffer, this.data.byteOffset, this.data.length / 4);
    const to = new Uint32Array(out.buffer, out.byteOffset, out.length / 4);
    for (let y = box.y; y < box.y + box.height; y++) this.copyRow(part, box, y, from, to);
  }

  private copyRow(part: PartMask, box: Rect, y: number, from: Uint32Array, to: Uint32Array): void {
    const { width, origin, factor, shift } = this;
    const row = y * width;
    const cellRow = Math.floor((y - origin.y) / factor) * this.cellsAcross;
    const target = (y - box.y) * box.width - box.x;
    for (let x = box.x; x < box.x + box.width; x++) {
      if (part[row + x]) to[target + x] = from[row + x + shift[cellRow + Math.floor((x - origin.x) / factor)]!]!;
    }
  }
}
