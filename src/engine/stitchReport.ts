import type { Homography } from '../core/geometry/homography.ts';
import type { Size } from '../core/image/rect.ts';
import { homographyBetween, type Camera, type Rotation } from '../core/panorama/camera.ts';
import { strengthOf } from '../core/panorama/overlaps.ts';
import type { Found } from './foundFrames.ts';

/** Why a frame is not part of the panorama. */
export type LeftOut = 'featureless' | 'apart' | 'same';

export interface FrameReport extends Size {
  name: string;
  used: boolean;
  why?: LeftOut;
  /** The frame that this one is the same as. */
  sameAs?: number;
  /** Which group of frames that hang together it belongs to, the largest being 0. */
  group: number;
  rotation?: Rotation;
  focalPx?: number;
  /** Exposure in linear light, that of the first used frame being 1. */
  gain?: number;
  reprojectionErrorPx?: number;
  /** From px of this frame to px of the first used one. */
  homography?: Homography;
}

export interface OverlapReport {
  a: number;
  b: number;
  /** Points that agree, and those compared. */
  agreeing: number;
  compared: number;
}

export interface StitchReport {
  frames: FrameReport[];
  overlaps: OverlapReport[];
  /** Used frames by how they lie: columns from left to right, each from top to bottom. */
  order: number[];
}

/**
 * What there is to tell of frames that hang together.
 *
 * @param isPlain by frame: whether it shows nothing that could be found again
 */
export function reportOf(
  { files, given, sizes, alignment, cameras, exposure }: Found,
  isPlain: readonly boolean[],
  groups: readonly number[][],
  same: ReadonlyMap<number, number>,
): StitchReport {
  const first = given.indexOf(Math.min(...alignment.frames.map((frame) => given[frame]!)));
  const meanGain = (frame: number): number => Math.cbrt(exposure.gains[frame]!.reduce((all, gain) => all * gain, 1));
  const reportOn = (frame: number): FrameReport => {
    const size = sizes[frame]!;
    const about = { name: files[frame]!.name, ...size, group: groups.findIndex((members) => members.includes(frame)) };
    if (same.has(frame)) return { ...about, used: false, why: 'same', sameAs: given[same.get(frame)!]! };
    if (!alignment.frames.includes(frame)) {
      return { ...about, used: false, why: isPlain[frame] ? 'featureless' : 'apart' };
    }
    const camera = cameras[frame]!;
    return {
      ...about,
      used: true,
      rotation: camera.rotation,
      focalPx: camera.focalPx,
      gain: meanGain(frame) / meanGain(first),
      reprojectionErrorPx: (alignment.errorsPx[frame]! * Math.max(size.width, size.height)) / 2000,
      homography: homographyBetween(camera, size, cameras[first]!, sizes[first]!),
    };
  };
  const overlaps = alignment.overlaps.map((overlap): OverlapReport => {
    const [a, b] = [given[overlap.a]!, given[overlap.b]!].sort((x, y) => x - y);
    return { a: a!, b: b!, agreeing: strengthOf(overlap), compared: overlap.compared };
  });
  overlaps.sort((x, y) => x.a - y.a || x.b - y.b);
  const frames = files.map((_, place) => reportOn(given.indexOf(place)));
  return { frames, overlaps, order: orderOf(cameras, alignment.frames).map((frame) => given[frame]!) };
}

/** Frames further apart than this stand in columns of their own. */
const COLUMN_RAD = 0.1;

/** Frames from left to right; where several lie above one another, from top to bottom. */
function orderOf(cameras: readonly Camera[], frames: readonly number[]): number[] {
  const places = frames.map((frame) => {
    const r = cameras[frame]!.rotation;
    return { frame, yaw: Math.atan2(r[2], r[8]), down: r[5] };
  });
  places.sort((a, b) => a.yaw - b.yaw);
  const columns: (typeof places)[] = [];
  for (const place of places) {
    const last = columns.at(-1);
    if (last && place.yaw - last.at(-1)!.yaw < COLUMN_RAD) last.push(place);
    else columns.push([place]);
  }
  return columns.flatMap((column) => column.sort((a, b) => a.down - b.down).map(({ frame }) => frame));
}
