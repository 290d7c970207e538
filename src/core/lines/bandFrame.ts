import type { Point } from '../geometry/homography.ts';
import type { Crossing } from './crossing.ts';
import type { Bundle } from './bundles.ts';

/**
 * The coordinates of a band that runs through a hole: `s` px along it, 0 where it enters the hole and `length` where it
 * leaves it, and `t` px to the right of its middle. It goes on beyond both ends, as its outlines were seen to.
 */
export interface BandFrame {
  length: number;
  /** It is known from -`before` to `length` + `after`. */
  before: number;
  after: number;
  /** Where (s, t) lies. */
  at(s: number, t: number): Point;
  /** The direction of the band at s. */
  along(s: number): Point;
  /** Where each of its outlines runs at s, from left to right. */
  offsets(s: number): Float64Array;
}

/** Outlines of a band come no nearer to each other than this share of how far apart they are where they are farthest apart. */
const NARROWEST = 0.25;

/** A bundle's frame; of outlines that get into each other's way only the surer ones. */
export function bandFrame(bundle: Bundle, factor: number): BandFrame {
  let joins = bundle.joins;
  for (;;) {
    const frame = frameOf({ joins }, factor);
    const culprit = firstInTheWay(frame, joins);
    if (!culprit) return frame;
    joins = joins.filter((join) => join !== culprit);
  }
}

/** The less sure of the first two outlines that touch somewhere. */
function firstInTheWay(frame: BandFrame, joins: Bundle['joins']): Bundle['joins'][number] | undefined {
  const widest = new Float64Array(joins.length);
  const narrowest = new Float64Array(joins.length).fill(Infinity);
  for (let s = -frame.before; s <= frame.length + frame.after; s += 2) {
    const offsets = frame.offsets(s);
    for (let k = 1; k < joins.length; k++) {
      widest[k] = Math.max(widest[k]!, offsets[k]! - offsets[k - 1]!);
      narrowest[k] = Math.min(narrowest[k]!, offsets[k]! - offsets[k - 1]!);
    }
  }
  for (let k = 1; k < joins.length; k++) {
    if (narrowest[k]! < NARROWEST * widest[k]!)
      return joins[k]!.value < joins[k - 1]!.value ? joins[k]! : joins[k - 1]!;
  }
  return undefined;
}

/** A bundle's frame, in px of a picture `factor` times as large as what crossings were found in. */
function frameOf({ joins }: Bundle, factor: number): BandFrame {
  const meanOf = (crossings: Crossing[]): End => meanEnd(crossings.map((own) => endOf(own, factor)));
  const [start, stop] = [meanOf(joins.map(({ from }) => from)), meanOf(joins.map(({ to }) => to))];
  const chord = Math.hypot(stop.x - start.x, stop.y - start.y);
  return frameAlong({
    start,
    end: stop,
    before: factor * Math.min(...joins.map(({ from }) => from.length)),
    after: factor * Math.min(...joins.map(({ to }) => to.length)),
    inner: through(start, stop, chord),
    outlines: joins.map(({ from, to }) => [endOf(from, factor), endOf(to, factor)] as const),
    beyond: 8 * factor,
  });
}

/** What a frame is made of, in px of the picture. */
export interface FrameParts {
  start: End;
  end: End;
  before: number;
  after: number;
  /** Points of the curve from start to end, close to each other. */
  inner: readonly Point[];
  /** Both ends of each outline, from left to right. */
  outlines: readonly (readonly [End, End])[];
  /** So far beyond what is known it is still told where the band would lie. */
  beyond: number;
}

/** The frame of a band along a curve. */
export function frameAlong({ start, end, before, after, inner, outlines: ends, beyond }: FrameParts): BandFrame {
  const steps = inner.length - 1;
  const far = new Float64Array(steps + 1);
  for (let k = 1; k <= steps; k++)
    far[k] = far[k - 1]! + Math.hypot(inner[k]!.x - inner[k - 1]!.x, inner[k]!.y - inner[k - 1]!.y);
  const length = far[steps]!;
  // One node a px, from `before` px ahead of the hole on.
  const first = -Math.ceil(before + beyond);
  const count = Math.ceil(length + after + beyond) - first + 1;
  const nodes: Point[] = Array.from({ length: count }, (_, k): Point => {
    const s = first + k;
    if (s <= 0) return outward(start, -s);
    if (s >= length) return outward(end, s - length);
    let low = 0;
    let high = steps;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (far[middle]! <= s) low = middle;
      else high = middle;
    }
    const share = (s - far[low]!) / Math.max(1e-9, far[high]! - far[low]!);
    const [a, b] = [inner[low]!, inner[high]!];
    return { x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) };
  });
  const tangents = nodes.map((_, k): Point => {
    const [a, b] = [nodes[Math.max(0, k - 2)]!, nodes[Math.min(count - 1, k + 2)]!];
    const size = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    return { x: (b.x - a.x) / size, y: (b.y - a.y) / size };
  });
  const between = (values: readonly Point[], s: number): Point => {
    const k = Math.max(0, Math.min(count - 1.001, s - first));
    const low = Math.floor(k);
    const share = k - low;
    const [a, b] = [values[low]!, values[low + 1]!];
    return { x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) };
  };
  const at = (s: number, t: number): Point => {
    const p = between(nodes, s);
    const along = between(tangents, s);
    return { x: p.x - t * along.y, y: p.y + t * along.x };
  };
  const outlines = ends.map((both) => outlineIn(nodes, tangents, first, both, length));
  return {
    length,
    before,
    after,
    at,
    along: (s) => between(tangents, s),
    offsets(s) {
      const k = Math.max(0, Math.min(count - 1.001, s - first));
      const low = Math.floor(k);
      return Float64Array.from(outlines, (offsets) => offsets[low]! + (k - low) * (offsets[low + 1]! - offsets[low]!));
    },
  };
}

/** Where something leaves the hole, in px of the picture; see `Crossing`. */
export type End = Pick<Crossing, 'x' | 'y' | 'outX' | 'outY' | 'curvature'>;

/** A crossing in px of a picture `factor` times as large. */
export const endOf = ({ x, y, outX, outY, curvature }: End, factor: number): End => ({
  x: factor * x,
  y: factor * y,
  outX,
  outY,
  curvature: curvature / factor,
});

export function meanEnd(ends: readonly End[]): End {
  const mean = (of: (end: End) => number): number => ends.reduce((sum, end) => sum + of(end), 0) / ends.length;
  const [outX, outY] = [mean(({ outX }) => outX), mean(({ outY }) => outY)];
  const size = Math.hypot(outX, outY) || 1;
  return {
    x: mean(({ x }) => x),
    y: mean(({ y }) => y),
    outX: outX / size,
    outY: outY / size,
    curvature: mean(({ curvature }) => curvature),
  };
}

/** The point `far` px out of the hole. */
function outward({ x, y, outX, outY, curvature }: End, far: number): Point {
  const bent = 0.5 * curvature * far * far;
  return { x: x + far * outX - bent * outY, y: y + far * outY + bent * outX };
}

/** Points half a px or less apart on the cubic from one end to the other, in their directions (C. Hermite). */
function through(a: End, b: End, chord: number): Point[] {
  const steps = Math.max(8, Math.ceil(2 * chord) * 2);
  return Array.from({ length: steps + 1 }, (_, k): Point => {
    const [h00, h10, h01, h11] = hermite(k / steps);
    return {
      x: h00 * a.x - h10 * chord * a.outX + h01 * b.x + h11 * chord * b.outX,
      y: h00 * a.y - h10 * chord * a.outY + h01 * b.y + h11 * chord * b.outY,
    };
  });
}

/** Weights of the ends of a cubic, and of their slopes: start, slope there, end, slope there. */
export const hermite = (u: number): [number, number, number, number] => [
  (1 + 2 * u) * (1 - u) ** 2,
  u * (1 - u) ** 2,
  u * u * (3 - 2 * u),
  u * u * (u - 1),
];

/** An outline as how far it lies to the right of the middle, one number a node. */
function outlineIn(
  nodes: readonly Point[],
  tangents: readonly Point[],
  first: number,
  ends: readonly [End, End],
  length: number,
): Float64Array {
  const offsets = new Float64Array(nodes.length).fill(NaN);
  const last = nodes.length - 1;
  /** The offset of an end's way out where the band's node lies, by stepping along the way out. */
  const seenAt = (end: End, node: number): number => {
    const [p, t] = [nodes[node]!, tangents[node]!];
    let far = 0;
    for (let round = 0; round < 6; round++) {
      const q = outward(end, far);
      const ahead = (q.x - p.x) * t.x + (q.y - p.y) * t.y;
      const slope = end.curvature * far;
      const along = (end.outX - slope * end.outY) * t.x + (end.outY + slope * end.outX) * t.y;
      far -= ahead / (Math.abs(along) > 0.2 ? along : Math.sign(along || 1) * 0.2);
    }
    const q = outward(end, far);
    return -(q.x - p.x) * t.y + (q.y - p.y) * t.x;
  };
  const zero = -first;
  const full = Math.round(length) + zero;
  for (let k = 0; k <= Math.min(last, zero); k++) offsets[k] = seenAt(ends[0], k);
  for (let k = Math.max(0, full); k <= last; k++) offsets[k] = seenAt(ends[1], k);
  const span = full - zero;
  const [a, b] = [offsets[zero]!, offsets[full]!];
  const [slopeA, slopeB] = [offsets[zero]! - offsets[zero - 1]!, offsets[full + 1]! - offsets[full]!];
  for (let k = zero + 1; k < full; k++) {
    const [h00, h10, h01, h11] = hermite((k - zero) / span);
    offsets[k] = h00 * a + h10 * span * slopeA + h01 * b + h11 * span * slopeB;
  }
  return offsets;
}
