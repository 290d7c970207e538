import { contours } from 'd3-contour';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { PartMask } from '../mask/byteMasks.ts';

/** Points of the path are means over so many to either side, and its direction is told by points so far away. */
const SMOOTHED = 3;
const DIRECTION = 4;

/** A closed path along the rim of a part, its points a step apart. Coordinates are the region's. */
export interface RimPath {
  count: number;
  x: Float64Array;
  y: Float64Array;
  /** The direction out of the part, of length 1. */
  outX: Float64Array;
  outY: Float64Array;
}

/** The squares of a part in which its outlines are sought, and room for what is found. */
export interface OutlineWork {
  /** 1 in the part, row by row, with an empty square on each side of it. */
  squares: Uint8Array;
  across: number;
  down: number;
  box: Rect;
  step: number;
  multiple: number;
  /** How many paths there are, then the number of points of each. */
  counts: Int32Array;
  /** `VALUES` of each point. */
  points: Float64Array;
}

const VALUES = 4;

/**
 * What `followOutlines` needs to find the outlines of a part (non-zero; `width` pixels a row, all of it in `box`), of
 * holes in it, too, in steps of `step` px or a trifle more. The number of points of each is a multiple of `multiple`;
 * those of fewer than eight times as many are left out.
 */
export function outlineWork(
  part: PartMask,
  width: number,
  box: Rect,
  step: number,
  multiple: number,
  { scratch }: Pick<Kernels, 'scratch'>,
): OutlineWork {
  // One square beyond the part on each side.
  const across = Math.ceil(box.width / step) + 2;
  const down = Math.ceil(box.height / step) + 2;
  const squares = scratch.bytes(across * down);
  const middle = step >> 1;
  for (let v = 1; v < down - 1; v++) {
    const row = (box.y + Math.min(box.height - 1, (v - 1) * step + middle)) * width + box.x;
    for (let u = 1; u < across - 1; u++) {
      if (part[row + Math.min(box.width - 1, (u - 1) * step + middle)]) squares[v * across + u] = 1;
    }
  }
  // An outline has a point, no farther than a square from the last, wherever squares of both kinds lie side by side.
  let sides = 0;
  for (let i = across; i < squares.length; i++) {
    if (squares[i] !== squares[i - 1]) sides++;
    if (squares[i] !== squares[i - across]) sides++;
  }
  const [counts, points] = [scratch.ints(1 + sides), scratch.doubles(VALUES * sides)];
  return { squares, across, down, box, step, multiple, counts, points };
}

/** The outlines that were followed. */
export function followedPaths({ counts, points }: OutlineWork): RimPath[] {
  let at = 0;
  return Array.from(counts.slice(1, 1 + counts[0]!), (count) => {
    const path = emptyPath(count);
    for (let i = 0; i < count; i++, at += VALUES) {
      path.x[i] = points[at]!;
      path.y[i] = points[at + 1]!;
      path.outX[i] = points[at + 2]!;
      path.outY[i] = points[at + 3]!;
    }
    return path;
  });
}

/** Follows the outlines; see `outlineWork`. */
export function followOutlines({ squares, across, down, box, step, multiple, counts, points }: OutlineWork): void {
  const [outlines] = contours().size([across, down]).smooth(false).thresholds([0.5])(squares as unknown as number[]);
  let at = 0;
  for (const ring of outlines!.coordinates.flat() as [number, number][][]) {
    const corners = ring.map(([x, y]) => [box.x + (x - 1) * step, box.y + (y - 1) * step] as const);
    const path = evenly(corners, step, multiple);
    if (!path) continue;
    counts[++counts[0]!] = path.count;
    for (let i = 0; i < path.count; i++, at += VALUES) {
      points[at] = path.x[i]!;
      points[at + 1] = path.y[i]!;
      points[at + 2] = path.outX[i]!;
      points[at + 3] = path.outY[i]!;
    }
  }
}

const emptyPath = (count: number): RimPath => ({
  count,
  x: new Float64Array(count),
  y: new Float64Array(count),
  outX: new Float64Array(count),
  outY: new Float64Array(count),
});

/** A ring, whose last point is its first, in even steps. */
function evenly(ring: readonly (readonly [number, number])[], step: number, multiple: number): RimPath | undefined {
  const far = new Float64Array(ring.length);
  for (let k = 1; k < ring.length; k++) {
    far[k] = far[k - 1]! + Math.hypot(ring[k]![0] - ring[k - 1]![0], ring[k]![1] - ring[k - 1]![1]);
  }
  const length = far[ring.length - 1]!;
  const count = multiple * Math.floor(length / (multiple * step));
  if (count < 8 * multiple) return undefined;
  const x = new Float64Array(count);
  const y = new Float64Array(count);
  for (let i = 0, k = 0; i < count; i++) {
    const at = (i * length) / count;
    while (far[k + 1]! <= at) k++;
    const share = (at - far[k]!) / (far[k + 1]! - far[k]!);
    x[i] = ring[k]![0] + share * (ring[k + 1]![0] - ring[k]![0]);
    y[i] = ring[k]![1] + share * (ring[k + 1]![1] - ring[k]![1]);
  }
  const path = { count, x: smoothed(x), y: smoothed(y), outX: new Float64Array(count), outY: new Float64Array(count) };
  for (let i = 0; i < count; i++) {
    const ahead = (i + DIRECTION) % count;
    const behind = (i - DIRECTION + count) % count;
    const dx = path.x[ahead]! - path.x[behind]!;
    const dy = path.y[ahead]! - path.y[behind]!;
    const size = Math.hypot(dx, dy) || 1;
    // Seen along its outline the part lies on the left.
    path.outX[i] = -dy / size;
    path.outY[i] = dx / size;
  }
  return path;
}

function smoothed(values: Float64Array): Float64Array {
  const count = values.length;
  const out = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    let sum = 0;
    for (let k = -SMOOTHED; k <= SMOOTHED; k++) sum += values[(i + k + count) % count]!;
    out[i] = sum / (2 * SMOOTHED + 1);
  }
  return out;
}
