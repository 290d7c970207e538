import type { Scratch } from '../kernels/scratch.ts';
import { indexLevel, UNLIMITED, type Level, type LevelPixels } from './level.ts';
import { FEATURE_PADDING } from './workImage.ts';

const SHALLOWEST_HOLE_PX = 2.5;
const FEWEST_DONORS = 200;

/**
 * The levels from the finest (first) to the coarsest: halved until the shorter side would fall under `shortestSide` px,
 * the hole is less than 2.5 px deep, or too few whole donor patches are left. Averages take only known pixels; a pixel
 * is hole if any of its four is, usable only if all are. An empty list means that even the finest level has no donor
 * patch.
 */
export function buildPyramid(
  finest: LevelPixels,
  heightWeight: number,
  shortestSide: number,
  scratch: Scratch,
  mostForHeight = UNLIMITED,
): Level[] {
  const first = indexLevel(finest, heightWeight, scratch, mostForHeight);
  if (first.donors.length === 0) return [];
  const levels = [first];
  for (;;) {
    const last = levels[levels.length - 1]!;
    if (Math.min(last.width, last.height) < 2 * shortestSide) break;
    const half = halve(last, scratch);
    // A row of the coarser level is two of the finer one.
    const next = indexLevel(half, 2 * last.heightWeight, scratch, mostForHeight);
    if (deepest(next.depth) < SHALLOWEST_HOLE_PX || next.donors.length < FEWEST_DONORS) break;
    levels.push(next);
  }
  return levels;
}

function deepest(depth: Uint16Array): number {
  let most = 0;
  for (const d of depth) if (d > most) most = d;
  return most;
}

function halve(level: LevelPixels, scratch: Scratch): LevelPixels {
  const width = Math.ceil(level.width / 2);
  const height = Math.ceil(level.height / 2);
  const features = scratch.bytes(width * height * 4 + FEATURE_PADDING);
  const hole = scratch.bytes(width * height);
  const usable = scratch.bytes(width * height);
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
  return { width, height, features, hole, usable };
}
