import type { RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';

/** The sides are looked at in so many pieces. */
const PIECES = 160;
/** How deep, as a share of the side across. */
const DEPTH_SHARE = 0.015;
/** Neighbours whose colours differ by more (in levels, over three channels) are of different things. */
const SMALLEST_STEP = 26;
/** A thing takes between these shares of the side. */
const SHORTEST_SHARE = 0.02;
const LONGEST_SHARE = 0.4;
/** So many pieces on both sides are compared, and a thing must differ from them by so many times their own spread. */
const AROUND = 5;
const LIVELY = 2.5;
const MAX_TOLD = 2;
/** A thing is told as reaching so far in, as a share of the side across, where its own depth is not measured. */
const TOLD_DEPTH_SHARE = 0.12;

export const EDGE_SIDES = ['left', 'top', 'right', 'bottom'] as const;
export type EdgeSide = (typeof EDGE_SIDES)[number];

/** A thing that touches a side. */
export interface ThingAtEdge {
  side: EdgeSide;
  rect: Rect;
}

/**
 * Things that touch a side of a picture and would be drawn outward with it: stretches of the side whose colour differs
 * from that on both sides of them, while what is on both sides is alike (a tile on plaster, a boat on water; not hills
 * between sky and sea). Each as a rectangle inside the picture, the plainest first,
 * at most two: in a lively picture everything is a thing. O(pixels along the side).
 */
export function thingsAtEdge(image: RasterImage, side: EdgeSide): Rect[] {
  const isUpright = side === 'left' || side === 'right';
  const length = isUpright ? image.height : image.width;
  const across = isUpright ? image.width : image.height;
  const pieces = Math.min(PIECES, length);
  const colours = profile(image, side, pieces, Math.max(1, Math.round(DEPTH_SHARE * across)));
  const found: { from: number; to: number; contrast: number }[] = [];
  const shortest = Math.max(2, Math.round(SHORTEST_SHARE * pieces));
  const longest = Math.round(LONGEST_SHARE * pieces);
  for (let from = 2; from < pieces - 2; from++) {
    if (distance(colours[from - 2]!, colours[from]!) < SMALLEST_STEP) continue;
    const to = endOf(colours, from, Math.min(pieces - 2, from + longest));
    if (to === undefined || to - from < shortest) continue;
    const contrast = contrastOf(colours, from, to);
    if (contrast > 1) found.push({ from: from - 1, to: to + 1, contrast });
    from = to;
  }
  const depth = Math.round(TOLD_DEPTH_SHARE * across);
  return found
    .sort((a, b) => b.contrast - a.contrast)
    .slice(0, MAX_TOLD)
    .map(({ from, to }) => {
      const start = Math.round((from * length) / pieces);
      const extent = Math.round((to * length) / pieces) - start;
      const inward = side === 'left' || side === 'top' ? 0 : across - depth;
      return isUpright
        ? { x: inward, y: start, width: depth, height: extent }
        : { x: start, y: inward, width: extent, height: depth };
    });
}

/** Where what was before `from` is met again; undefined if it is not by `last`, or right away. */
function endOf(colours: readonly Colour[], from: number, last: number): number | undefined {
  const before = colours[from - 2]!;
  for (let at = from + 1; at <= last; at++) {
    if (distance(colours[at]!, before) < 0.6 * SMALLEST_STEP) return at;
  }
  return undefined;
}

/** How much more a stretch differs from what is on both sides of it than that differs in itself; above 1, it counts. */
function contrastOf(colours: readonly Colour[], from: number, to: number): number {
  const around = [...colours.slice(Math.max(0, from - 2 - AROUND), from - 1), ...colours.slice(to, to + AROUND)];
  const mean = meanOf(around);
  const spread = Math.max(...around.map((colour) => distance(colour, mean)));
  return distance(meanOf(colours.slice(from, to)), mean) / Math.max(SMALLEST_STEP, LIVELY * spread);
}

const meanOf = (colours: readonly Colour[]): Colour =>
  [0, 1, 2].map((c) => colours.reduce((sum, colour) => sum + colour[c]!, 0) / colours.length) as unknown as Colour;

type Colour = readonly [number, number, number];

const distance = (a: Colour, b: Colour): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** The mean colour of each piece of a side. */
function profile(image: RasterImage, side: EdgeSide, pieces: number, depth: number): Colour[] {
  const { width, height, data } = image;
  const isUpright = side === 'left' || side === 'right';
  const length = isUpright ? height : width;
  return Array.from({ length: pieces }, (_, piece): Colour => {
    const sum: [number, number, number] = [0, 0, 0];
    let count = 0;
    const end = Math.floor(((piece + 1) * length) / pieces);
    for (let along = Math.floor((piece * length) / pieces); along < end; along++) {
      for (let inward = 0; inward < depth; inward++) {
        const far = side === 'right' ? width - 1 - inward : side === 'bottom' ? height - 1 - inward : inward;
        const i = 4 * (isUpright ? along * width + far : far * width + along);
        for (let c = 0; c < 3; c++) sum[c]! += data[i + c]!;
        count++;
      }
    }
    return [sum[0] / count, sum[1] / count, sum[2] / count];
  });
}
