import { FingoError } from '../errors.ts';
import { cropImage, requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { boundsOf, createMask, type Mask } from '../mask/mask.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import type { PullWay } from './pullWays.ts';
import { bestJoint } from './joints.ts';
import { perspectiveUnits, straightUnits } from './repeatUnits.ts';
import { copiedPart } from './copiedPart.ts';
import type { Sources } from './sources.ts';
import { closeSeams } from './transfer.ts';

export interface LengthenInput {
  image: RasterImage;
  /** The end of the thing, with as much of it behind as may be repeated. */
  mark: Mask;
  /** How far, and which way, the end is pulled, in px. */
  pull: { dx: number; dy: number };
  /** Which of the lengths that fit is repeated: 0 = the one whose joints match best, 1 = the next, ... */
  choice: number;
  /** Whether repeats are as large as the strip even where the thing's edges converge. */
  sameSize: boolean;
  /** The planes that the thing may lie on; found where not given. */
  planes?: readonly PlaneCorners[];
  /** The thing alone, inside the mark: then what else is marked stays where it is. */
  thing?: Mask | undefined;
}

export interface LengthenedRegion {
  box: Rect;
  image: RasterImage;
  /** Mean difference, in levels, across the joints before their tone is closed: lower is better. */
  rimStep: number;
  /** Whether repeats become smaller or larger along the pull. */
  inPerspective: boolean;
}

/**
 * Makes a thing longer: the marked end is carried along the pull, and the gap is filled with repeats of the strip at
 * the mark's rear edge, where it ends against the pull. The strip's length is the one, near a whole fraction of the
 * pull, at which the picture is most like itself so far on (the pattern's period): its texture keeps its phase, and
 * lines along the pull run on straight. Where the thing's edges converge, repeats become smaller or larger with them. Tone
 * is closed in the gradient domain. What would leave the picture is cut off. Where the thing is told from what lies around
 * it, only it is carried on, and the place it comes to stays as it is beside it. Throws `nothing-marked`, and `no-donors`
 * when the pull is shorter than a pixel or too little of the thing is marked.
 */
export function lengthenRegion(
  { image, mark, pull, choice, sameSize, planes, thing }: LengthenInput,
  kernels: Kernels,
): LengthenedRegion {
  requireSameSize(image, mark, 'The mark');
  if (Math.hypot(pull.dx, pull.dy) < 1) {
    throw new FingoError('no-donors', 'The end was not pulled; drag it to where the thing should reach.');
  }
  const inPerspective = sameSize ? undefined : perspectiveUnits(image, mark, pull, planes);
  const units = inPerspective ?? straightUnits(image, mark, pull);
  const unit = units[Math.min(choice, units.length - 1)]!;
  const { way, step, repeats, mismatch } = unit;
  // The strip before the joint is the picture's own.
  const joint = bestJoint(image, mark, unit);
  const indexAt = (x: number, y: number): number =>
    Math.max(0, Math.min(repeats, Math.ceil((way.along(x + 0.5, y + 0.5) - joint) / step)));
  const part = sweep(mark, way, repeats * step, (x, y) => indexAt(x, y) > 0);
  const box = boundsOf(part);
  const sources = unit.sources(indexAt);
  const out = cropImage(image, box);
  sources.copy(part.data, box, out.data);
  kernels.reset();
  const pieces = copiedPart({ image, unknown: part.data, part: part.data, box, sources, isThing: true }, kernels);
  closeSeams(pieces, out.data, kernels);
  if (thing) keepBeside(image, thing, part, box, sources, out);
  return { box, image: out, rimStep: mismatch, inPerspective: inPerspective !== undefined };
}

/** Beside what the thing covers, carried on or where it was, `out` (the part's box) becomes the picture again. In place. */
function keepBeside(
  image: RasterImage,
  { width, height, data }: Mask,
  part: Mask,
  box: Rect,
  sources: Sources,
  out: RasterImage,
): void {
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      const here = y * width + x;
      if (!part.data[here]) continue;
      const from = sources.sourceOf(x, y);
      const [u, v] = [Math.floor(from.x), Math.floor(from.y)];
      const isInside = u >= 0 && v >= 0 && u < width && v < height;
      const share = Math.max(data[here]!, isInside ? data[v * width + u]! : 0) / 255;
      const to = 4 * ((y - box.y) * box.width + x - box.x);
      for (let c = 0; c < 3; c++)
        out.data[to + c] = share * out.data[to + c]! + (1 - share) * image.data[4 * here + c]!;
    }
  }
}

/** All that the mark passes over on its way and that is to change. */
function sweep(mark: Mask, way: PullWay, by: number, changes: (x: number, y: number) => boolean): Mask {
  const { width, height, data } = mark;
  let [first, last] = [Infinity, -Infinity];
  const eachMarked = (visit: (x: number, y: number) => void): void => {
    for (let i = 0; i < data.length; i++) if (data[i]! >= 128) visit((i % width) + 0.5, Math.floor(i / width) + 0.5);
  };
  eachMarked((x, y) => {
    first = Math.min(first, Math.round(way.across(x, y) - way.reach(x, y)));
    last = Math.max(last, Math.round(way.across(x, y) + way.reach(x, y)));
  });
  // Of each way what the mark covers of it.
  const rear = new Float64Array(last - first + 1).fill(Infinity);
  const front = new Float64Array(last - first + 1).fill(-Infinity);
  eachMarked((x, y) => {
    const [across, reach, t] = [way.across(x, y) - first, way.reach(x, y) / 2, way.along(x, y)];
    for (let k = Math.round(across - reach); k <= Math.round(across + reach); k++) {
      rear[k] = Math.min(rear[k]!, t);
      front[k] = Math.max(front[k]!, t);
    }
  });
  const out = createMask(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!changes(x, y)) continue;
      const t = way.along(x + 0.5, y + 0.5);
      const k = Math.round(way.across(x + 0.5, y + 0.5)) - first;
      if (k >= 0 && k < rear.length && t >= rear[k]! && t <= front[k]! + by) out.data[y * width + x] = 255;
    }
  }
  return out;
}
