import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { Level } from './level.ts';

const SWEEPS = 200;
/** Texture measures below this count as none: they are compared by their logarithms. */
const LEAST_TEXTURE = 8;
/** The share of what the texture of a hole falls short of what is expected that it is raised by. */
const RAISED_BY = 0.3;

/** How much texture is expected in a hole. */
export interface ExpectedTexture {
  /** Raises the texture measure (T) of a level's hole where it falls short; `level` is halved `halvings` times to the one it was expected on. */
  raise(level: Level, halvings: number): void;
}

/**
 * Expects in a hole what a harmonic interpolation of the logarithms of T around it gives, on a pyramid's coarsest level.
 * Means over patches that disagree are smooth, and the smoother a place is, the smoother are the donors that fit it:
 * without being raised, lively ground is rebuilt from its calmest parts.
 */
export function expectTexture({ width, height, hole, features }: Level): ExpectedTexture {
  const logarithms = Float32Array.from(hole, (_, i) => Math.log(features[4 * i + 3]! + LEAST_TEXTURE));
  interpolateHarmonically(logarithms, hole, width, height, SWEEPS);
  const expected = logarithms.map((value) => Math.exp(value) - LEAST_TEXTURE);
  return {
    raise(level, halvings) {
      for (const i of level.holePixels) {
        const x = i % level.width;
        const y = (i - x) / level.width;
        const missing = expected[(y >> halvings) * width + (x >> halvings)]! - level.features[4 * i + 3]!;
        if (missing > 0) level.features[4 * i + 3] = Math.round(level.features[4 * i + 3]! + RAISED_BY * missing);
      }
    },
  };
}
