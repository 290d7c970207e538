import type { BandWork, Kernels } from '../kernels/kernels.ts';
import type { Scratch } from '../kernels/scratch.ts';
import {
  deepest,
  listDonors,
  listedLevel,
  listTargets,
  measureHole,
  roomForLists,
  UNLIMITED,
  type Level,
  type LevelPixels,
  type LevelRoom,
} from './level.ts';
import { FEATURE_PADDING } from './workImage.ts';

const SHALLOWEST_HOLE_PX = 2.5;
const FEWEST_DONORS = 200;

/** What is listed of a level's hole beside the search for what may be copied into it. */
export const LIST_HOLE: BandWork<LevelRoom> = {
  name: 'listHole',
  band(room) {
    listTargets(room);
    measureHole(room);
  },
};

interface ListsWork {
  room: LevelRoom;
  /** Room for the next level. */
  half?: LevelRoom | undefined;
}

function listBand({ room, half }: ListsWork, task: number): void {
  if (task === 0) listDonors(room);
  else if (task === 1 && half) halve(room, half);
  else if (task === 2) listTargets(room);
  else if (task === 3) measureHole(room);
}
const TASKS = { ofDonors: 2, all: 4 };

/** The first tasks are what needs to be known of donors: their list, and the next level. */
export const LISTS: BandWork<ListsWork> = { name: 'lists', band: listBand };

/**
 * The levels from the finest (first) to the coarsest: halved until the shorter side would fall under `shortestSide` px,
 * the hole is less than 2.5 px deep, or too few whole donor patches are left. Averages take only known pixels; a pixel
 * is hole if any of its four is, usable only if all are. An empty list means that even the finest level has no donor
 * patch. Where `plausible` is given, it tells what of the finest level may be copied from.
 */
export function buildPyramid(
  finest: LevelPixels,
  heightWeight: number,
  shortestSide: number,
  kernels: Kernels,
  mostForHeight = UNLIMITED,
  plausible = (): Uint8Array => finest.usable,
): Level[] {
  const { scratch, beside, inBands } = kernels;
  const usable = scratch.bytes(finest.usable.length);
  let room = roomForLists({ ...finest, usable }, scratch);
  const listed = beside(LIST_HOLE, room);
  usable.set(plausible());
  listed();
  const levels: Level[] = [];
  for (let weight = heightWeight; ; weight *= 2) {
    const half = Math.min(room.width, room.height) < 2 * shortestSide ? undefined : roomForHalf(room, scratch);
    inBands(LISTS, { room, half }, levels.length === 0 ? TASKS.ofDonors : TASKS.all);
    // A row of a coarser level is two of the finer one.
    const level = listedLevel(room, weight, mostForHeight, scratch);
    const isTooCoarse = deepest(room) < SHALLOWEST_HOLE_PX || level.donors.length < FEWEST_DONORS;
    if (levels.length === 0 ? level.donors.length === 0 : isTooCoarse) return levels;
    levels.push(level);
    if (!half) return levels;
    room = half;
  }
}

function roomForHalf({ width, height }: LevelPixels, scratch: Scratch): LevelRoom {
  const [across, down] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const [hole, usable] = [scratch.bytes(across * down), scratch.bytes(across * down)];
  const features = scratch.bytes(across * down * 4 + FEATURE_PADDING);
  return roomForLists({ width: across, height: down, features, hole, usable }, scratch);
}

function halve(level: LevelPixels, { width, height, features, hole, usable }: LevelPixels): void {
  for (let y = 0; y < height; y++) {
    const rows = 2 * y + 1 < level.height ? 2 : 1;
    for (let x = 0; x < width; x++) {
      const cell = y * width + x;
      const columns = 2 * x + 1 < level.width ? 2 : 1;
      let known = 0;
      let allUsable = 1;
      let [luma, blue, red, texture] = [0, 0, 0, 0];
      for (let v = 0; v < rows; v++) {
        for (let u = 0; u < columns; u++) {
          const i = (2 * y + v) * level.width + 2 * x + u;
          if (!level.usable[i]) allUsable = 0;
          if (level.hole[i]) {
            hole[cell] = 1;
            continue;
          }
          known++;
          luma += level.features[4 * i]!;
          blue += level.features[4 * i + 1]!;
          red += level.features[4 * i + 2]!;
          texture += level.features[4 * i + 3]!;
        }
      }
      usable[cell] = allUsable;
      if (known === 0) continue;
      features[4 * cell] = Math.round(luma / known);
      features[4 * cell + 1] = Math.round(blue / known);
      features[4 * cell + 2] = Math.round(red / known);
      features[4 * cell + 3] = Math.round(texture / known);
    }
  }
}
