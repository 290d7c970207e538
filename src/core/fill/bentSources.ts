import type { RasterImage } from '../image/rasterImage.ts';
import { intersect, type Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Donors, Hole, PartMask } from '../mask/byteMasks.ts';
import { bytesBy } from '../numeric/filled.ts';
import { addBicubicBytes } from './bicubicSample.ts';
import { rimBends, type RimBend } from './rimBends.ts';
import type { RimPath } from './rimPath.ts';
import { ShiftedSources, type Sources } from './sources.ts';

/** Nodes of the field lie so many steps of the rim apart. */
const NODE_STEPS = 4;
/** The field goes so many steps beyond the box, as what lies before the rim is compared with what goes on there. */
const BEYOND_STEPS = 16;
/** How far from the rim a bend fades, in its own lengths and besides in steps of the rim. */
const FADES_OVER = 3;
const FADES_OVER_STEPS = 8;
/** So close to the rim it does not fade yet, in steps. */
const WHOLE_STEPS = 2;
/** A bend by less is none, in px. */
const MIN_PX = 0.02;

const NOT = 0;
/** Texture, so that it keeps its grain. */
const BY_WHOLE_PIXELS = 1;
/** Lines, so that they have no steps. */
const SMOOTHLY = 2;

/** How far away lies what should be shown, on a grid of nodes; between them it is interpolated. In px of the region. */
interface BendField {
  left: number;
  top: number;
  /** Between nodes, in px. */
  side: number;
  /** Nodes across and down. */
  width: number;
  height: number;
  dx: Float32Array;
  dy: Float32Array;
  /** By the first of its four nodes how a square is bent: `NOT`, `BY_WHOLE_PIXELS` or `SMOOTHLY`. */
  kinds: Uint8Array;
}

interface BentData {
  straight: ShiftedSources;
  /** Region size: non-zero where `straight` tells sources; the region's height. */
  part: PartMask;
  height: number;
  /** Region size: non-zero where nothing may be copied from. */
  forbidden: Uint8Array;
  field: BendField;
}

/** What other sources show, moved along the rim of a part by what `rimBends` tells, the less the farther from it. */
export class BentSources implements Sources, BentData {
  readonly kind = 'bent';
  readonly straight: ShiftedSources;
  readonly part: PartMask;
  readonly height: number;
  readonly forbidden: Uint8Array;
  readonly field: BendField;
  readonly largestBlock: number;
  // How far the place that was last asked for is bent.
  private dx = 0;
  private dy = 0;

  constructor({ straight, part, height, forbidden, field }: BentData) {
    // Told to another thread, they arrive without their methods.
    this.straight = new ShiftedSources(straight);
    this.part = part;
    this.height = height;
    this.forbidden = forbidden;
    this.field = field;
    this.largestBlock = straight.largestBlock;
  }

  /** Notes how far what is shown at the middle of pixel (x, y) is bent; false where it is not. */
  private bend(x: number, y: number): boolean {
    const { field } = this;
    const { side, width } = field;
    const column = Math.floor((x - field.left) / side);
    const row = Math.floor((y - field.top) / side);
    if (column < 0 || row < 0 || column + 1 >= width || row + 1 >= field.height) return false;
    const node = row * width + column;
    const kind = field.kinds[node]!;
    if (kind === NOT) return false;
    const { dx, dy } = field;
    const across = (x + 0.5 - field.left) / side - column;
    const down = (y + 0.5 - field.top) / side - row;
    const a = (1 - across) * (1 - down);
    const b = across * (1 - down);
    const c = (1 - across) * down;
    const d = across * down;
    this.dx = a * dx[node]! + b * dx[node + 1]! + c * dx[node + width]! + d * dx[node + width + 1]!;
    this.dy = a * dy[node]! + b * dy[node + 1]! + c * dy[node + width]! + d * dy[node + width + 1]!;
    if (kind === BY_WHOLE_PIXELS) {
      this.dx = Math.round(this.dx);
      this.dy = Math.round(this.dy);
    }
    return Math.abs(this.dx) + Math.abs(this.dy) > MIN_PX;
  }

  groupAt(x: number, y: number): number {
    return this.bend(x, y) ? this.bentGroupAt(x, y) : this.straight.groupAt(x, y);
  }

  /** Of a place just asked for: what is shown there lies at another one of the part, and comes with the piece there. */
  private bentGroupAt(x: number, y: number): number {
    const { straight, part, height } = this;
    const u = Math.floor(x + 0.5 + this.dx);
    const v = Math.floor(y + 0.5 + this.dy);
    const isThere = u >= 0 && v >= 0 && u < straight.width && v < height && part[v * straight.width + u] !== 0;
    return isThere ? straight.groupAt(u, v) : straight.groupAt(x, y);
  }

  sourceOf(x: number, y: number): { x: number; y: number } {
    if (!this.bend(x, y)) return this.straight.sourceOf(x, y);
    const { width } = this.straight;
    const from = y * width + x + this.bentGroupAt(x, y);
    return { x: (from % width) + this.dx, y: Math.floor(from / width) + this.dy };
  }

  sample(group: number, x: number, y: number, out: Float32Array): boolean {
    return this.bend(x, y) ? this.sampleBent(group, x, y, out) : this.straight.sample(group, x, y, out);
  }

  /** `sample` of a place just asked for. */
  private sampleBent(group: number, x: number, y: number, out: Float32Array): boolean {
    const { straight, height, forbidden } = this;
    const { data, width } = straight;
    const from = y * width + x + group;
    const u = (from % width) + 0.5 + this.dx;
    const v = Math.floor(from / width) + 0.5 + this.dy;
    const column = Math.floor(u);
    const row = Math.floor(v);
    if (column < 0 || row < 0 || column >= width || row >= height || forbidden[row * width + column]) return false;
    const first = (Math.floor(v - 0.5) - 1) * width + Math.floor(u - 0.5) - 1;
    let isWhole = Number.isInteger(this.dx) && Number.isInteger(this.dy);
    // Beside what may not be seen the pixel itself is taken, too.
    for (let k = 0; k < 16 && !isWhole; k++) isWhole = forbidden[first + (k >> 2) * width + (k & 3)]! > 0;
    if (isWhole) {
      for (let c = 0; c < 3; c++) out[c] = data[4 * (row * width + column) + c]!;
      return true;
    }
    out.fill(0);
    addBicubicBytes(data, width, height, u, v, 1, out);
    return true;
  }

  copy(part: PartMask, box: Rect, out: Uint8ClampedArray): void {
    this.straight.copy(part, box, out);
    const { left, top, side, width, height, kinds } = this.field;
    const lastRow = Math.min(height - 2, Math.floor((box.y + box.height - 1 - top) / side));
    for (let row = Math.max(0, Math.floor((box.y - top) / side)); row <= lastRow; row++) {
      for (let column = 0; column < width - 1; column++) {
        if (kinds[row * width + column] === NOT) continue;
        const square = { x: left + column * side, y: top + row * side, width: side, height: side };
        this.copySquare(part, intersect(box, square), box, out);
      }
    }
  }

  private copySquare(part: PartMask, square: Rect, box: Rect, out: Uint8ClampedArray): void {
    const colour = new Float32Array(3);
    for (let y = square.y; y < square.y + square.height; y++) {
      for (let x = square.x; x < square.x + square.width; x++) {
        if (!part[y * this.straight.width + x] || !this.bend(x, y)) continue;
        if (!this.sampleBent(this.bentGroupAt(x, y), x, y, colour)) continue;
        const to = 4 * ((y - box.y) * box.width + x - box.x);
        for (let c = 0; c < 3; c++) out[to + c] = colour[c]!;
      }
    }
  }

  shared({ share }: Pick<Kernels, 'share'>): Sources {
    const { part, height, forbidden, field } = this;
    const straight = this.straight.shared({ share });
    return new BentSources({
      straight,
      part: share(part),
      height,
      forbidden: forbidden === this.straight.hole ? straight.hole : share(forbidden),
      field: { ...field, dx: share(field.dx), dy: share(field.dy), kinds: share(field.kinds) },
    });
  }
}

/**
 * Sources whose lines meet those that run across the rim of what they are copied into; the same ones where they lie on
 * a plane, on which lines meet anyway, or fit as they are. See `rimBends`, also for `outlines`. Where `donors` are given
 * (region size), only pixels at 255 are copied.
 */
export function bentAtRim(
  sources: Sources,
  image: RasterImage,
  unknown: Hole,
  part: PartMask,
  box: Rect,
  outlines: readonly RimPath[],
  donors: Donors | undefined,
  kernels: Pick<Kernels, 'scratch' | 'inBands'>,
): Sources {
  if (!(sources instanceof ShiftedSources)) return sources;
  const { bends, step } = rimBends(image, unknown, part, box, sources, outlines, kernels);
  const field = bendField(bends, step, box);
  if (!field) return sources;
  const { hole } = sources;
  const forbidden = donors ? bytesBy(hole.length, (i) => (hole[i] || donors[i] !== 255 ? 1 : 0)) : hole;
  return new BentSources({ straight: sources, part, height: image.height, forbidden, field });
}

/** The field of bends around the rim of a part in `box`; undefined where nothing is bent. */
function bendField(bends: readonly RimBend[], step: number, box: Rect): BendField | undefined {
  if (bends.length === 0) return undefined;
  const side = NODE_STEPS * step;
  const beyond = BEYOND_STEPS * step;
  const width = Math.ceil((box.width + 2 * beyond) / side) + 1;
  const height = Math.ceil((box.height + 2 * beyond) / side) + 1;
  const left = box.x - beyond;
  const top = box.y - beyond;
  const dx = new Float32Array(width * height);
  const dy = new Float32Array(width * height);
  const weights = new Float32Array(width * height);
  const shares = new Float32Array(width * height);
  // What most of a node's weight is of, below 0 where it is of texture.
  const lines = new Float32Array(width * height);
  for (const bend of bends) {
    const reach = FADES_OVER * Math.hypot(bend.dx, bend.dy) + FADES_OVER_STEPS * step;
    const right = Math.min(width - 1, Math.floor((bend.x + reach - left) / side));
    const bottom = Math.min(height - 1, Math.floor((bend.y + reach - top) / side));
    for (let v = Math.max(0, Math.ceil((bend.y - reach - top) / side)); v <= bottom; v++) {
      for (let u = Math.max(0, Math.ceil((bend.x - reach - left) / side)); u <= right; u++) {
        const away = Math.hypot(left + u * side - bend.x, top + v * side - bend.y);
        if (away >= reach) continue;
        // Of the nearest point of the rim most, or two bends beside each other would tear.
        const weight = 1 / ((away / step) ** 2 + 4) ** 1.5;
        const fading = Math.max(0, away - WHOLE_STEPS * step) / reach;
        const node = v * width + u;
        dx[node]! += weight * bend.dx;
        dy[node]! += weight * bend.dy;
        weights[node]! += weight;
        lines[node]! += bend.isLine ? weight : -weight;
        shares[node] = Math.max(shares[node]!, 0.5 + 0.5 * Math.cos(Math.PI * fading));
      }
    }
  }
  for (let node = 0; node < weights.length; node++) {
    if (weights[node] === 0) continue;
    dx[node]! *= shares[node]! / weights[node]!;
    dy[node]! *= shares[node]! / weights[node]!;
  }
  const kinds = new Uint8Array(width * height);
  for (let node = 0; node < weights.length - width - 1; node++) {
    const corners = [node, node + 1, node + width, node + width + 1];
    if (corners.every((corner) => weights[corner] === 0)) continue;
    kinds[node] = corners.reduce((sum, corner) => sum + lines[corner]!, 0) > 0 ? SMOOTHLY : BY_WHOLE_PIXELS;
  }
  return { left, top, side, width, height, dx, dy, kinds };
}
