import { FingoError } from '../errors.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { boundsOf, createMask, type Mask } from '../mask/mask.ts';
import { carriedSources } from './carriedSources.ts';
import { copiedPart } from './seamSystem.ts';
import { closeSeams } from './transfer.ts';

export interface LengthenInput {
  image: RasterImage;
  /** The end of the thing, with as much of it behind as may be repeated. */
  mark: Mask;
  /** How far, and which way, the end is pulled, in px. */
  pull: { dx: number; dy: number };
  /** Which of the lengths that fit is repeated: 0 = the one whose joints match best, 1 = the next, ... */
  choice: number;
}

export interface LengthenedRegion {
  box: Rect;
  image: RasterImage;
  /** Mean difference, in levels, across the joints before their tone is closed: lower is better. */
  rimStep: number;
  /** The pull as it was carried out: a whole number of repeats, a few px from what was asked. */
  pull: { dx: number; dy: number };
}

/** The repeated strip is at least this share of the marked end along the pull, and at least so many px long. */
const SHORTEST_SHARE = 0.3;
const SHORTEST_PX = 8;
/** A repeat may be so many px longer or shorter, and shifted sideways, so that its pattern stays in step. */
const SLACK_PX = 10;
const SIDEWAYS_PX = 3;
/** Px to each side of a joint that are compared. */
const JOINT_PX = 6;

/**
 * Makes a thing longer: the marked end is carried along the pull, and the gap is filled with repeats of the strip at
 * the mark's rear edge, where it ends against the pull. The strip's length is the one, near a whole fraction of the
 * pull, at which the picture is most like itself so far on (the pattern's period): its texture keeps its phase, and
 * lines along the pull run on straight. Tone is closed in the gradient domain. What would leave the picture is cut off.
 * Throws `nothing-marked`, and `no-donors` when the pull is shorter than a pixel or too little of the thing is marked.
 */
export function lengthenRegion({ image, mark, pull, choice }: LengthenInput, kernels: Kernels): LengthenedRegion {
  requireSameSize(image, mark, 'The mark');
  const length = Math.hypot(pull.dx, pull.dy);
  if (length < 1) throw new FingoError('no-donors', 'The end was not pulled; drag it to where the thing should reach.');
  const along = { x: pull.dx / length, y: pull.dy / length };
  const extent = extentAlong(mark, along);
  const units = matchingUnits(image, mark, extent, along, length);
  const unit = units[Math.min(choice, units.length - 1)]!;
  const repeats = Math.max(1, Math.round(length / unit.length));
  const done = { dx: repeats * unit.dx, dy: repeats * unit.dy };
  const step = unit.dx * along.x + unit.dy * along.y;
  const offsets = Array.from({ length: repeats + 1 }, (_, k) => ({ dx: -k * unit.dx, dy: -k * unit.dy }));
  const indexAt = (x: number, y: number): number => {
    // How far in front of the end's rear edge: the first strip is the picture's own.
    const t = (x + 0.5) * along.x + (y + 0.5) * along.y - extent.rear - step;
    return Math.max(0, Math.min(repeats, Math.ceil(t / step)));
  };
  const part = sweep(mark, unit, repeats, (x, y) => indexAt(x, y) > 0);
  const box = boundsOf(part);
  const sources = carriedSources(image, new Uint8Array(image.width * image.height), offsets, indexAt);
  const out = cropImage(image, box);
  sources.copy(part.data, box, out.data);
  kernels.reset();
  closeSeams(copiedPart({ image, unknown: part.data, part: part.data, box, sources }), out.data, kernels);
  return { box, image: out, rimStep: unit.mismatch, pull: done };
}

interface Extent {
  /** The lowest and highest distance along the pull that the mark covers. */
  rear: number;
  front: number;
}

function extentAlong({ width, data }: Mask, along: { x: number; y: number }): Extent {
  let rear = Infinity;
  let front = -Infinity;
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const x = i % width;
    const t = (x + 0.5) * along.x + ((i - x) / width + 0.5) * along.y;
    rear = Math.min(rear, t);
    front = Math.max(front, t);
  }
  if (front < rear) throw new FingoError('nothing-marked', 'Nothing is marked; draw around the end of the thing.');
  return { rear, front };
}

interface Unit {
  dx: number;
  dy: number;
  length: number;
  mismatch: number;
}

/** Lengths of strip that divide the pull, best match first; lengths close to a better one are left out. */
function matchingUnits(
  image: RasterImage,
  mark: Mask,
  { rear, front }: Extent,
  along: { x: number; y: number },
  length: number,
): Unit[] {
  const longest = Math.max(SHORTEST_PX, front - rear - 2 * JOINT_PX);
  const shortest = Math.max(SHORTEST_PX, SHORTEST_SHARE * longest);
  const fewest = Math.max(1, Math.ceil(length / longest));
  const most = Math.max(fewest, Math.floor(length / shortest));
  const band = pixelsNear(mark, along, rear + JOINT_PX);
  const seen = new Map<string, Unit>();
  for (let repeats = fewest; repeats <= most; repeats++) {
    for (let change = -SLACK_PX; change <= SLACK_PX; change++) {
      const by = length / repeats + change / repeats;
      if (by < SHORTEST_PX || by > longest + SLACK_PX) continue;
      for (let sideways = -SIDEWAYS_PX; sideways <= SIDEWAYS_PX; sideways++) {
        const dx = Math.round(by * along.x - sideways * along.y);
        const dy = Math.round(by * along.y + sideways * along.x);
        const key = `${dx} ${dy}`;
        if (seen.has(key) || (dx === 0 && dy === 0)) continue;
        // A longer repeat hides better; sideways shifts bend what should be straight.
        const mismatch = mismatchAt(image, band, dx, dy) * (1 + 0.04 * Math.abs(sideways)) + 0.15 * repeats;
        if (Number.isFinite(mismatch)) seen.set(key, { dx, dy, length: by, mismatch });
      }
    }
  }
  const sorted = [...seen.values()].sort((a, b) => a.mismatch - b.mismatch);
  const apart = sorted.filter(
    (unit, k) => !sorted.slice(0, k).some((better) => Math.hypot(unit.dx - better.dx, unit.dy - better.dy) < 4),
  );
  if (apart.length === 0) {
    throw new FingoError(
      'no-donors',
      'Too little of the thing is marked to go on from; mark a longer piece of its end, or pull less far.',
    );
  }
  return apart;
}

/** Marked pixels within a joint's reach of the line across the pull at `t`. */
function pixelsNear({ width, data }: Mask, along: { x: number; y: number }, t: number): Int32Array {
  const found: number[] = [];
  for (let i = 0; i < data.length; i++) {
    if (data[i]! < 128) continue;
    const x = i % width;
    if (Math.abs((x + 0.5) * along.x + ((i - x) / width + 0.5) * along.y - t) <= JOINT_PX) found.push(i);
  }
  return Int32Array.from(found);
}

/** Mean difference between a band and what lies (dx, dy) on from it; infinite where that leaves the picture. */
function mismatchAt({ width, height, data }: RasterImage, band: Int32Array, dx: number, dy: number): number {
  let sum = 0;
  for (const i of band) {
    const x = (i % width) + dx;
    const y = Math.floor(i / width) + dy;
    if (x < 0 || y < 0 || x >= width || y >= height) return Infinity;
    const j = y * width + x;
    for (let c = 0; c < 3; c++) sum += Math.abs(data[4 * i + c]! - data[4 * j + c]!);
  }
  return band.length > 0 ? sum / (3 * band.length) : Infinity;
}

/** All that the mark passes over on its way and that is to change. */
function sweep(mark: Mask, unit: Unit, repeats: number, changes: (x: number, y: number) => boolean): Mask {
  const { width, height, data } = mark;
  const out = createMask(width, height);
  const steps = Math.max(1, Math.ceil(Math.hypot(unit.dx, unit.dy) / 2));
  for (let k = 0; k <= repeats * steps; k++) {
    const dx = Math.round((k * unit.dx) / steps);
    const dy = Math.round((k * unit.dy) / steps);
    for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y++) {
      for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x++) {
        if (data[y * width + x]! >= 128) out.data[(y + dy) * width + x + dx] = 255;
      }
    }
  }
  for (let i = 0; i < out.data.length; i++) {
    if (out.data[i] && !changes(i % width, Math.floor(i / width))) out.data[i] = 0;
  }
  return out;
}
