import type { Rect, Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';

/** A set of pixels of a hole. */
export interface Area {
  /** The smallest around its pixels. */
  box: Rect;
  pixels: number;
  /** One byte for each pixel of the box, what the hole has there where it is the area's. */
  bits: Uint8Array;
}

/** Areas are told apart on squares, so many along the longer side of the hole's box at first. */
const SQUARES_ALONG = 160;
const MAX_AREAS = 24;
/** Nearer to each other than this share of the smaller one's longest side, two areas are rebuilt as one. */
const NEAR = 0.25;
/**
 * An area is long, and cut, if the square of its longest side is more than so many times its pixels. On planes lines step
 * where it is cut, so only very long ones are. What lies along the picture's edge is known from one side only: there short
 * pieces gain nothing.
 */
const LONG = { between: 4, onPlanes: 6, alongEdge: 12 };
/** Shorter pieces would be no finer: so much is looked at around each at least. */
const SHORTEST_PIECE_PX = 192;

/** What the squares of a hole hold. */
interface Squares {
  side: number;
  width: number;
  height: number;
  /** Pixels of the hole in each. */
  counts: Int32Array;
}

interface Cluster {
  squares: number[];
  pixels: number;
  /** In squares, `x1` and `y1` inside. */
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/**
 * What of a hole (one byte a pixel, non-zero; all in `box`) is to be rebuilt apart, each at a scale of its own: what
 * lies far from each other, and the pieces of what is long and thin, such as a cable or the gap along a panorama's edge.
 * `onPlanes`: whether it lies on planes that it is rebuilt along.
 * Every pixel of the hole is in exactly one. Empty where all is to be rebuilt in one go, as most holes are. O(box).
 */
export function areasOf(hole: Hole, box: Rect, picture: Size, onPlanes = false): Area[] {
  const longest = Math.max(box.width, box.height);
  let side = Math.max(1, Math.ceil(longest / SQUARES_ALONG));
  let squares = countInSquares(hole, box, picture.width, side);
  let clusters = clustersOf(allOf(squares), squares);
  while (clusters.length > MAX_AREAS) {
    side *= 2;
    squares = countInSquares(hole, box, picture.width, side);
    clusters = clustersOf(allOf(squares), squares);
  }
  const pieces = clusters.flatMap((cluster) =>
    cutLong(cluster, squares, box, picture, onPlanes ? LONG.onPlanes : LONG.between),
  );
  if (pieces.length === 1) return [];
  return pieces.map((piece) => areaOf(piece, squares, hole, box, picture.width));
}

function countInSquares(hole: Hole, box: Rect, across: number, side: number): Squares {
  const width = Math.ceil(box.width / side);
  const height = Math.ceil(box.height / side);
  const counts = new Int32Array(width * height);
  for (let y = 0; y < box.height; y++) {
    const row = Math.floor(y / side) * width;
    const start = (box.y + y) * across + box.x;
    for (let square = 0; square < width; square++) {
      const end = start + Math.min((square + 1) * side, box.width);
      let count = 0;
      for (let i = start + square * side; i < end; i++) if (hole[i]) count++;
      counts[row + square]! += count;
    }
  }
  return { side, width, height, counts };
}

function allOf({ counts }: Squares): number[] {
  const all: number[] = [];
  for (let i = 0; i < counts.length; i++) if (counts[i]! > 0) all.push(i);
  return all;
}

/** Those of the squares that touch, at corners too, or are near to each other, together. */
function clustersOf(among: readonly number[], squares: Squares): Cluster[] {
  const { width, height, counts } = squares;
  const isLeft = new Uint8Array(counts.length);
  for (const square of among) isLeft[square] = 1;
  const found: Cluster[] = [];
  for (const seed of among) {
    if (!isLeft[seed]) continue;
    isLeft[seed] = 0;
    const touching = [seed];
    for (const square of touching) {
      const x = square % width;
      const y = Math.floor(square / width);
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const next = v * width + u;
          if (!isLeft[next]) continue;
          isLeft[next] = 0;
          touching.push(next);
        }
      }
    }
    found.push(clusterOf(touching, squares));
  }
  return joinNear(found, squares);
}

function clusterOf(members: number[], { width, height, counts }: Squares): Cluster {
  const cluster = { squares: members, pixels: 0, x0: width, y0: height, x1: -1, y1: -1 };
  for (const square of members) {
    const x = square % width;
    const y = Math.floor(square / width);
    cluster.pixels += counts[square]!;
    cluster.x0 = Math.min(cluster.x0, x);
    cluster.x1 = Math.max(cluster.x1, x);
    cluster.y0 = Math.min(cluster.y0, y);
    cluster.y1 = Math.max(cluster.y1, y);
  }
  return cluster;
}

const longestOf = ({ x0, y0, x1, y1 }: Cluster): number => Math.max(x1 - x0, y1 - y0) + 1;

function joinNear(clusters: Cluster[], squares: Squares): Cluster[] {
  if (clusters.length > MAX_AREAS * MAX_AREAS) return clusters;
  const joined = [...clusters];
  for (let k = 0; k < joined.length;) {
    const other = joined.findIndex((cluster, i) => i > k && areNear(cluster, joined[k]!));
    if (other < 0) {
      k++;
      continue;
    }
    joined[k] = clusterOf([...joined[k]!.squares, ...joined[other]!.squares], squares);
    joined.splice(other, 1);
    // Larger than before, it may be near to those that were looked at already.
    k = 0;
  }
  return joined;
}

function areNear(a: Cluster, b: Cluster): boolean {
  const gap = Math.max(a.x0 - b.x1, b.x0 - a.x1, a.y0 - b.y1, b.y0 - a.y1) - 1;
  return gap < NEAR * Math.min(longestOf(a), longestOf(b));
}

/** A cluster, or the pieces of a long one. */
function cutLong(cluster: Cluster, squares: Squares, box: Rect, picture: Size, between: number): Cluster[] {
  const { side, width } = squares;
  const longest = longestOf(cluster);
  const length = (longest * side) ** 2 / cluster.pixels;
  const most = liesAlongEdge(cluster, squares, box, picture) ? LONG.alongEdge : between;
  if (length <= most) return [cluster];
  const count = Math.min(
    MAX_AREAS,
    longest,
    Math.max(2, Math.floor((2 * length) / most)),
    Math.floor((longest * side) / SHORTEST_PIECE_PX),
  );
  if (count < 2) return [cluster];
  const isAcross = cluster.x1 - cluster.x0 >= cluster.y1 - cluster.y0;
  const slabs: number[][] = Array.from({ length: count }, () => []);
  for (const square of cluster.squares) {
    const along = isAcross ? (square % width) - cluster.x0 : Math.floor(square / width) - cluster.y0;
    slabs[Math.floor((along * count) / longest)]!.push(square);
  }
  return slabs
    .flatMap((slab) => clustersOf(slab, squares))
    .flatMap((piece) => cutLong(piece, squares, box, picture, between));
}

/** Whether one of its longer sides lies at the picture's edge. */
function liesAlongEdge({ x0, y0, x1, y1 }: Cluster, { side }: Squares, box: Rect, picture: Size): boolean {
  const isAcross = x1 - x0 >= y1 - y0;
  return isAcross
    ? box.y + y0 * side === 0 || box.y + (y1 + 1) * side >= picture.height
    : box.x + x0 * side === 0 || box.x + (x1 + 1) * side >= picture.width;
}

function areaOf({ squares: members }: Cluster, squares: Squares, hole: Hole, box: Rect, across: number): Area {
  const { side, width } = squares;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  let pixels = 0;
  const eachPixel = (visit: (x: number, y: number, i: number) => void): void => {
    for (const square of members) {
      const left = box.x + (square % width) * side;
      const top = box.y + Math.floor(square / width) * side;
      for (let y = top; y < Math.min(top + side, box.y + box.height); y++) {
        for (let x = left; x < Math.min(left + side, box.x + box.width); x++) {
          const i = y * across + x;
          if (hole[i]) visit(x, y, i);
        }
      }
    }
  };
  eachPixel((x, y) => {
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
    pixels++;
  });
  const own = { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
  const bits = new Uint8Array(own.width * own.height);
  eachPixel((x, y, i) => {
    bits[(y - y0) * own.width + x - x0] = hole[i]!;
  });
  return { box: own, pixels, bits };
}
