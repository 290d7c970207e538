import { inflate, intersect, wholeOf, type Rect, type Size } from '../image/rect.ts';
import { boundsOf } from '../mask/mask.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { pixelsOnPlane } from './planeView.ts';

/** A part of a hole that is rebuilt in one go. */
export interface Part {
  /** Region size: non-zero where this part rebuilds. */
  pixelsOf: Uint8Array;
  pixels: number;
  box: Rect;
  /** What the rebuilding looks at. */
  region: Rect;
  plane?: PlaneCorners;
  /** Where known, the edge of a material on one side of which all of the part lies. */
  side?: Side | undefined;
}

/** One side of a plane's `edge`. */
export interface Side {
  edge: NonNullable<PlaneCorners['edge']>;
  isOnPlane: boolean;
}

/** A hole of more pixels is done in tiles. */
const MOST_PIXELS = 4_000_000;
/** Fewer pixels of a hole on a plane are left to the rest. */
const SMALLEST_SHARE_ON_PLANE = 0.04;
const SMALLEST_MARGIN_PX = 96;

/** Whether a pixel lies on that side. */
export const isOnSide = ({ edge: [a, b, c], isOnPlane }: Side, x: number, y: number): boolean =>
  a * (x + 0.5) + b * (y + 0.5) + c > 0 === isOnPlane;

/**
 * The parts of a hole in the order in which they are rebuilt: on planes first, then the rest, what lies on one side of
 * an edge of two materials apart from what lies on the other, in tiles where large.
 */
export function planParts(hole: Uint8Array, box: Rect, size: Size, planes: readonly PlaneCorners[]): Part[] {
  const parts: Part[] = [];
  let rest = hole;
  const all = countIn(box, hole, size.width);
  let left = all;
  for (const plane of planes) {
    const pixelsOf = pixelsOnPlane(plane, rest, size.width, box);
    const pixels = countIn(box, pixelsOf, size.width);
    if (pixels < SMALLEST_SHARE_ON_PLANE * all) continue;
    const partBox = boxOf(pixelsOf, size);
    parts.push({ pixelsOf, pixels, box: partBox, region: wholeOf(size), plane });
    rest = without(rest, pixelsOf, box, size.width);
    left -= pixels;
  }
  if (left === 0) return parts;
  const edge = parts.find(({ plane }) => plane?.edge)?.plane?.edge;
  if (!edge) return [...parts, ...tilesOf(rest, left, parts.length === 0 ? box : boxOf(rest, size), size)];
  const off = rest.slice();
  for (let y = box.y; y < box.y + box.height; y++) {
    for (let x = box.x; x < box.x + box.width; x++) {
      if (isOnSide({ edge, isOnPlane: true }, x, y)) off[y * size.width + x] = 0;
    }
  }
  const sides = [without(rest, off, box, size.width), off].map((pixelsOf, k) => ({
    side: { edge, isOnPlane: k === 0 },
    pixelsOf,
    pixels: countIn(box, pixelsOf, size.width),
  }));
  // A trifle on one side goes with what lies on the other.
  const worthwhile = sides.filter(({ pixels }) => pixels >= SMALLEST_SHARE_ON_PLANE * all);
  if (worthwhile.length < 2) {
    const { side } = sides.reduce((a, b) => (b.pixels > a.pixels ? b : a));
    return [...parts, ...tilesOf(rest, left, boxOf(rest, size), size).map((part) => ({ ...part, side }))];
  }
  return [
    ...parts,
    ...sides.flatMap(({ side, pixelsOf, pixels }) =>
      tilesOf(pixelsOf, pixels, boxOf(pixelsOf, size), size).map((part) => ({ ...part, side })),
    ),
  ];
}

/** The pixels of the hole but for those that are taken, all in the box. */
function without(hole: Uint8Array, taken: Uint8Array, { x, y, width, height }: Rect, across: number): Uint8Array {
  const left = hole.slice();
  for (let v = y; v < y + height; v++) {
    for (let i = v * across + x; i < v * across + x + width; i++) if (taken[i]) left[i] = 0;
  }
  return left;
}

function tilesOf(rest: Uint8Array, pixels: number, box: Rect, size: Size): Part[] {
  if (pixels <= MOST_PIXELS) return [{ pixelsOf: rest, pixels, box, region: wholeOf(size) }];
  const along = box.width >= box.height ? 'width' : 'height';
  const count = Math.ceil(pixels / MOST_PIXELS);
  return Array.from({ length: count }, (_, k): Part | undefined => {
    const from = Math.floor((k * box[along]) / count);
    const to = Math.floor(((k + 1) * box[along]) / count);
    const tile =
      along === 'width'
        ? { ...box, x: box.x + from, width: to - from }
        : { ...box, y: box.y + from, height: to - from };
    const pixelsOf = new Uint8Array(rest.length);
    for (let y = tile.y; y < tile.y + tile.height; y++) {
      const row = y * size.width + tile.x;
      pixelsOf.set(rest.subarray(row, row + tile.width), row);
    }
    const tight = boxOf(pixelsOf, size);
    if (tight.width === 0) return undefined;
    const margin = Math.max(SMALLEST_MARGIN_PX, tight.width, tight.height);
    return {
      pixelsOf,
      pixels: countIn(tight, pixelsOf, size.width),
      box: tight,
      region: intersect(inflate(tight, margin), wholeOf(size)),
    };
  }).filter((part) => part !== undefined);
}

const boxOf = (bits: Uint8Array, size: Size): Rect =>
  boundsOf({ width: size.width, height: size.height, data: bits as Uint8Array<ArrayBuffer> });

function countIn({ x, y, width, height }: Rect, bits: Uint8Array, across: number): number {
  let sum = 0;
  for (let v = y; v < y + height; v++) {
    for (let i = v * across + x; i < v * across + x + width; i++) if (bits[i]) sum++;
  }
  return sum;
}
