import { inflate, intersect, translate, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { boundsOf, createMask, cropMask, pasteMask, type Mask } from '../mask/mask.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { movedEdge, movedPlane } from '../planes/movedPlane.ts';
import { areasOf } from './areas.ts';
import { liesPastEdge } from './enclosed.ts';
import { planFillRegion, planNearRegion } from './planRegion.ts';
import { pixelsOnPlane } from './planeView.ts';
import type { Drawn } from './drawn.ts';
import type { FillStrategy } from './strategy.ts';

/** A part of a hole that is rebuilt in one go, in coordinates of what its rebuilding looks at. */
export interface Part {
  /** What the rebuilding looks at, in the picture. */
  region: Rect;
  /** Region size: non-zero where this part rebuilds. */
  pixelsOf: Uint8Array;
  pixels: number;
  box: Rect;
  plane?: PlaneCorners;
  /** Whether only what is near is looked at. */
  isNear: boolean;
  /** Where known, the edge of a material on one side of which all of the part lies. */
  side?: Side | undefined;
  /** Where known, what looks like its own side of a line (255), the rest being no donor. Region size. */
  donorsOf?: Uint8Array | undefined;
  /** Where it is drawn, not matched, what from. */
  drawn?: Drawn;
}

/** One side of a plane's `edge`. */
export interface Side {
  edge: NonNullable<PlaneCorners['edge']>;
  isOnPlane: boolean;
}

/** A hole of more pixels is done in tiles. */
const MAX_PIXELS = 4_000_000;
/** So much of a place rebuilt along planes makes the take one along planes. */
export const MIN_ON_PLANES = 0.25;
/** Fewer pixels of a hole on a plane are left to the rest. */
const SMALLEST_SHARE_ON_PLANE = 0.04;

/** How many px parts have in all. */
export const pixelsInAll = (parts: readonly Part[]): number => parts.reduce((sum, { pixels }) => sum + pixels, 0);

/** Whether a pixel lies on that side. */
export const isOnSide = ({ edge: [a, b, c], isOnPlane }: Side, x: number, y: number): boolean =>
  a * (x + 0.5) + b * (y + 0.5) + c > 0 === isOnPlane;

/** Where more of what is looked at is unknown, more is looked at. */
const MIN_KNOWN = 0.5;

/**
 * The parts of a hole in the order in which they are rebuilt: area by area, in each on planes first, then the rest, what
 * lies on one side of an edge of two materials apart from what lies on the other, in tiles where large. An area of
 * several sees its own surroundings, and the donors' box where donors are given. Of a place between known ones only what is
 * near is looked at where `looks` says so, or where it is one of several; what lies on planes sees them whole.
 */
export function planParts(
  hole: Hole,
  box: Rect,
  size: Size,
  planes: readonly PlaneCorners[],
  looks: FillStrategy['looks'],
  donorBounds?: Rect,
): Part[] {
  const all = countIn(box, hole, size.width);
  let onPlanes = 0;
  for (const plane of planes) onPlanes += countIn(box, pixelsOnPlane(plane, hole, size.width, box), size.width);
  const areas = areasOf(hole, box, size, onPlanes >= MIN_ON_PLANES * all);
  if (areas.length === 0) return partsOfArea(hole, hole, box, wholeOf(size), planes, looks, donorBounds);
  return areas.flatMap((area) => {
    const region = untilKnown(planFillRegion(area.box, size, donorBounds), hole, size);
    const { width, height } = area.box;
    const own = createMask(region.width, region.height);
    const at = translate(area.box, -region.x, -region.y);
    pasteMask(own, at, { width, height, data: area.bits as Mask['data'] });
    const moved = planes.map((plane) => movedPlane(plane, -region.x, -region.y));
    const donorsInRegion = donorBounds && translate(donorBounds, -region.x, -region.y);
    const unknown = cropMask({ ...size, data: hole as Mask['data'] }, region);
    return partsOfArea(own.data, unknown.data, at, region, moved, 'near', donorsInRegion);
  });
}

/** The same part with all of the picture looked at. */
export function seenFromAll(part: Part, size: Size): Part {
  const { region, box, plane, side } = part;
  const { x, y, width, height } = region;
  const all = createMask(size.width, size.height);
  pasteMask(all, region, { width, height, data: part.pixelsOf as Mask['data'] });
  return {
    ...part,
    region: wholeOf(size),
    pixelsOf: all.data,
    box: translate(box, x, y),
    ...(plane && { plane: movedPlane(plane, x, y) }),
    ...(side && { side: sideSeenIn(side, region, wholeOf(size)) }),
  };
}

/** What is planned to be looked at, or so much more that enough of it is known. */
function untilKnown(planned: Rect, hole: Hole, size: Size): Rect {
  let region = planned;
  while (region.width < size.width || region.height < size.height) {
    const known = 1 - countIn(region, hole, size.width) / (region.width * region.height);
    if (known >= MIN_KNOWN) break;
    region = intersect(inflate(region, Math.max(region.width, region.height)), wholeOf(size));
  }
  return region;
}

/** All in coordinates of the region; `unknown`: the area and all others. */
function partsOfArea(
  hole: Hole,
  unknown: Hole,
  box: Rect,
  region: Rect,
  planes: readonly PlaneCorners[],
  looks: FillStrategy['looks'],
  donorBounds: Rect | undefined,
): Part[] {
  const size = { width: region.width, height: region.height };
  const isNear = looks === 'near' && !donorBounds && !liesPastEdge(hole, size);
  const lookedAtFor = (around: Rect): Rect =>
    isNear ? untilKnown(planNearRegion(around, size), unknown, size) : planFillRegion(around, size, donorBounds);
  const tilesOf = (pixelsOf: Uint8Array, pixels: number, around: Rect, side?: Side): Part[] => {
    const whole = { region, pixelsOf, pixels, box: around, isNear };
    const tiles =
      pixels > MAX_PIXELS
        ? inTiles(whole, lookedAtFor)
        : [isNear ? seenFrom(lookedAtFor(around), whole, around) : whole];
    return side ? tiles.map((part) => ({ ...part, side: sideSeenIn(side, region, part.region) })) : tiles;
  };
  const parts: Part[] = [];
  let rest = hole;
  const all = countIn(box, hole, size.width);
  let left = all;
  for (const plane of planes) {
    const pixelsOf = pixelsOnPlane(plane, rest, size.width, box);
    const pixels = countIn(box, pixelsOf, size.width);
    if (pixels < SMALLEST_SHARE_ON_PLANE * all) continue;
    const partBox = boxOf(pixelsOf, size);
    parts.push({ region, pixelsOf, pixels, box: partBox, plane, isNear: false });
    rest = without(rest, pixelsOf, box, size.width);
    left -= pixels;
  }
  if (left === 0) return parts;
  const edge = parts.find(({ plane }) => plane?.edge)?.plane?.edge;
  if (!edge) return [...parts, ...tilesOf(rest, left, parts.length === 0 ? box : boxOf(rest, size))];
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
    return [...parts, ...tilesOf(rest, left, boxOf(rest, size), side)];
  }
  return [
    ...parts,
    ...sides.flatMap(({ side, pixelsOf, pixels }) => tilesOf(pixelsOf, pixels, boxOf(pixelsOf, size), side)),
  ];
}

/** The pixels of the hole but for those that are taken, all in the box. */
function without(hole: Hole, taken: Uint8Array, { x, y, width, height }: Rect, across: number): Uint8Array {
  const left = hole.slice();
  for (let v = y; v < y + height; v++) {
    for (let i = v * across + x; i < v * across + x + width; i++) if (taken[i]) left[i] = 0;
  }
  return left;
}

const sideSeenIn = ({ edge, isOnPlane }: Side, from: Rect, to: Rect): Side => ({
  edge: movedEdge(edge, from.x - to.x, from.y - to.y),
  isOnPlane,
});

function inTiles(whole: Part, lookedAtFor: (box: Rect) => Rect): Part[] {
  const { region, pixelsOf, pixels, box } = whole;
  const all = { width: region.width, height: region.height, data: pixelsOf as Mask['data'] };
  const along = box.width >= box.height ? 'width' : 'height';
  const count = Math.ceil(pixels / MAX_PIXELS);
  return Array.from({ length: count }, (_, k): Part | undefined => {
    const from = Math.floor((k * box[along]) / count);
    const to = Math.floor(((k + 1) * box[along]) / count);
    const tile =
      along === 'width'
        ? { ...box, x: box.x + from, width: to - from }
        : { ...box, y: box.y + from, height: to - from };
    const inTile = boundsOf(cropMask(all, tile));
    if (inTile.width === 0) return undefined;
    const tight = translate(inTile, tile.x, tile.y);
    return seenFrom(lookedAtFor(tight), whole, tight);
  }).filter((part) => part !== undefined);
}

/** What of a part lies in `box`, looking at `seen`; both in coordinates of its region. */
function seenFrom(seen: Rect, { region, pixelsOf, isNear }: Part, box: Rect): Part {
  const own = cropMask({ width: region.width, height: region.height, data: pixelsOf as Mask['data'] }, box);
  const mask = createMask(seen.width, seen.height);
  const inSeen = translate(box, -seen.x, -seen.y);
  pasteMask(mask, inSeen, own);
  return {
    region: translate(seen, region.x, region.y),
    pixelsOf: mask.data,
    pixels: countIn(inSeen, mask.data, seen.width),
    box: inSeen,
    isNear,
  };
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
