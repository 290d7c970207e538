import { FingoError } from '../errors.ts';
import type { Rect, Size } from '../image/rect.ts';
import { unite } from '../image/rect.ts';
import type { SpherePlacement } from '../sphere/placement.ts';
import type { Camera } from './camera.ts';
import { backToFrame, extentOf, type Projection } from './projection.ts';

export type ProjectionChoice = 'auto' | Projection['kind'];

/** How frames are laid out on one flat picture. */
export interface Layout {
  projection: Projection;
  /** What the frames cover, px of the projection. */
  bounds: Rect;
  /** Whether they go all the way round: the left edge of `bounds` then follows its right one. */
  closed: boolean;
  /** Angles of view that the frames cover together, degrees. */
  viewDeg: { across: number; down: number };
}

/** Up to these angles straight lines may stay straight; up to that one upright lines may. */
const PLANAR_DEG = 95;
const CYLINDRICAL_DEG = 100;
/** A planar picture is not laid out wider than this: its edges would grow without bound. */
const WIDEST_PLANAR_DEG = 140;

/**
 * Lays frames out in a projection: by itself planar for narrow views, cylindrical for wide ones, spherical where they
 * reach far up or down too. Sharpness is kept: straight ahead a px is one px of the frames, unless the picture would
 * have more than `mostPx`.
 *
 * Throws `out-of-range` where a planar picture can't show the frames.
 */
export function layOut(
  cameras: readonly Camera[],
  sizes: readonly Size[],
  frames: readonly number[],
  choice: ProjectionChoice,
  mostPx: number,
): Layout {
  const sphere: Projection = { kind: 'spherical', scale: 1000 };
  const around = coverOf(sphere, cameras, sizes, frames);
  const closed = isClosed(sphere, cameras, sizes, frames);
  const degrees = (px: number): number => (px / sphere.scale) * (180 / Math.PI);
  const viewDeg = { across: closed ? 360 : Math.min(360, degrees(around.width)), down: degrees(around.height) };
  const reach = 2 * Math.max(-degrees(around.y), degrees(around.y + around.height));
  const kind =
    choice !== 'auto'
      ? choice
      : viewDeg.across <= PLANAR_DEG && reach <= PLANAR_DEG
        ? 'planar'
        : reach <= CYLINDRICAL_DEG
          ? 'cylindrical'
          : 'spherical';
  if (kind === 'planar' && (viewDeg.across > WIDEST_PLANAR_DEG || reach > WIDEST_PLANAR_DEG)) {
    throw new FingoError(
      'out-of-range',
      `These frames see ${Math.round(viewDeg.across)}° across and ${Math.round(viewDeg.down)}° down, too wide to keep all lines straight; choose cylindrical or spherical.`,
    );
  }
  const focal = frames.map((frame) => cameras[frame]!.focalPx).sort((a, b) => a - b);
  let scale = focal[focal.length >> 1]!;
  const area = (at: number): number => {
    const { width, height } = coverOf({ kind, scale: at }, cameras, sizes, frames);
    // What goes all the way round is to become a whole sphere.
    return closed && kind === 'spherical' ? (2 * Math.PI * at) ** 2 / 2 : width * height;
  };
  const full = area(scale);
  if (full > mostPx) scale *= Math.sqrt(mostPx / full);
  // Sides are rounded up.
  while (area(scale) > mostPx) scale *= 0.999;
  // A whole turn must be a whole number of px, so that its ends meet, and so must a quarter, for the poles.
  if (closed && kind !== 'planar') scale = (4 * Math.floor((Math.PI * scale) / 2)) / (2 * Math.PI);
  const projection: Projection = { kind, scale };
  const bounds = coverOf(projection, cameras, sizes, frames);
  if (!closed || kind === 'planar') return { projection, bounds, closed: false, viewDeg };
  const width = Math.round(2 * Math.PI * scale);
  return { projection, bounds: { ...bounds, x: -(width >> 1), width }, closed, viewDeg };
}

/** Where a part of a spherical layout lies on its sphere; undefined unless it goes all the way round, within the poles. */
export function partOfSphere({ projection, bounds, closed }: Layout, part: Rect): SpherePlacement | undefined {
  const isRound = part.x === bounds.x && part.width === bounds.width && part.width % 4 === 0;
  if (!closed || projection.kind !== 'spherical' || !isRound) return undefined;
  const full = { width: part.width, height: part.width / 2 };
  const y = part.y + full.height / 2;
  if (y < 0 || y + part.height > full.height) return undefined;
  return { full, part: { x: 0, y, width: part.width, height: part.height } };
}

function coverOf(
  projection: Projection,
  cameras: readonly Camera[],
  sizes: readonly Size[],
  frames: readonly number[],
): Rect {
  return frames.reduce<Rect>(
    (bounds, frame) => {
      const extent = extentOf(projection, cameras[frame]!, sizes[frame]!);
      return extent ? unite(bounds, extent) : bounds;
    },
    { x: 0, y: 0, width: 0, height: 0 },
  );
}

/** Whether some frame sees every heading. */
function isClosed(
  sphere: Projection,
  cameras: readonly Camera[],
  sizes: readonly Size[],
  frames: readonly number[],
): boolean {
  const headings = 360;
  const seen = new Uint8Array(headings);
  for (const frame of frames) {
    const { width, height } = sizes[frame]!;
    const carry = backToFrame(sphere, { x: 0, y: 0 }, cameras[frame]!, sizes[frame]!);
    // At the height that the frame looks at.
    const pitch = Math.asin(Math.max(-1, Math.min(1, cameras[frame]!.rotation[5])));
    for (let k = 0; k < headings; k++) {
      const place = Float64Array.of(((2 * Math.PI * k) / headings - Math.PI) * sphere.scale, pitch * sphere.scale);
      carry(place, 1);
      if (place[0]! >= 0 && place[1]! >= 0 && place[0]! <= width && place[1]! <= height) seen[k] = 1;
    }
  }
  return !seen.includes(0);
}

/** The same layout with another number of px to a radian, as far as whole px allow. */
export function scaleLayout(layout: Layout, by: number): Layout {
  const { projection, bounds, closed } = layout;
  const scaled = (value: number): number => Math.round(value * by);
  const [x, y] = [scaled(bounds.x), scaled(bounds.y)];
  const width = Math.max(1, scaled(bounds.width));
  const height = Math.max(1, scaled(bounds.height));
  const scale = closed ? width / (2 * Math.PI) : projection.scale * by;
  return { ...layout, projection: { ...projection, scale }, bounds: { x: closed ? -width / 2 : x, y, width, height } };
}
