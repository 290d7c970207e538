import type { BandWork, Kernels } from '../kernels/kernels.ts';
import { expectTexture } from './expectedTexture.ts';
import { foreignCosts } from './foreignCosts.ts';
import type { Level, LevelPixels } from './level.ts';

/** What is read from a pyramid's levels before they are matched. */
export interface Readings {
  /** What donors cost for being foreign to the hole's rim, by level; see `foreignCosts`. */
  foreign: readonly Int32Array[];
  /** What the coarsest level expects in its hole; see `expectTexture`. */
  texture: Float32Array;
}

interface ReadWork {
  levels: (LevelPixels & Pick<Level, 'donors'>)[];
  foreignWeight: number;
  foreign: Int32Array[];
  texture: Float32Array;
}

/** Reads what is foreign on one of the levels or, after all of them, the coarsest one's texture. */
function readLevelBand({ levels, foreignWeight, foreign, texture }: ReadWork, band: number): void {
  if (band < levels.length) foreign[band]!.set(foreignCosts(levels[band]!, foreignWeight));
  else texture.set(expectTexture(levels[levels.length - 1]!));
}

export const READ_LEVEL: BandWork<ReadWork> = { name: 'readLevel', band: readLevelBand };

/** Reads levels from the finest to the coarsest; what is not wanted stays 0. It lies in the kernels' scratch. */
export function readLevels(
  levels: readonly Level[],
  foreignWeight: number,
  wantsTexture: boolean,
  { scratch, share, inBands }: Kernels,
): Readings {
  const foreign = levels.map(({ width, height }) => scratch.ints(width * height));
  const { width, height } = levels[levels.length - 1]!;
  const texture = scratch.floats(width * height);
  const pixels = levels.map(({ width, height, features, hole, usable, donors }) => ({
    width,
    height,
    features,
    hole,
    usable: share(usable),
    donors,
  }));
  const first = foreignWeight > 0 ? 0 : levels.length;
  const count = levels.length + (wantsTexture ? 1 : 0) - first;
  inBands(READ_LEVEL, { levels: pixels, foreignWeight, foreign, texture }, count, first);
  return { foreign, texture };
}
