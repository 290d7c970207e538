import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { Level } from './level.ts';
import { floatsBy } from '../numeric/filled.ts';

const SWEEPS = 200;
/** Texture measures below this count as none: they are compared by their logarithms. */
const LEAST_TEXTURE = 8;
/** The share of what the texture of a hole falls short of what is expected that it is raised by. */
const RAISED_BY = 0.3;
/** Past the picture's edge it is lowered by a share of what is more than so many times as lively as expected. */
const LOWERED_BY = 0.2;
const TOO_LIVELY = 1.4;

/** How much texture is expected in a hole. */
export interface ExpectedTexture {
  /**
   * Leads the texture measure (T) of a level's hole towards what is expected; `level` is halved `halvings` times to the
   * one it was expected on.
   */
  lead(level: Level, halvings: number): void;
}

/**
 * Expects in a hole what a harmonic interpolation of the logarithms of T around it gives, on a pyramid's coarsest level.
 * Means over patches that disagree are smooth, and the smoother a place is, the smoother are the donors that fit it:
 * without being raised, lively ground is rebuilt from its calmest parts. Past the picture's edge, where nothing on the
 * other side holds it, what is much livelier than the rim comes in as well, and is held back.
 */
export function expectTexture({ width, height, hole, features }: Level, pastEdge: boolean): ExpectedTexture {
  const logarithms = floatsBy(hole.length, (i) => Math.log(features[4 * i + 3]! + LEAST_TEXTURE));
  interpolateHarmonically(logarithms, hole, width, height, SWEEPS);
  const expected = floatsBy(hole.length, (i) => Math.exp(logarithms[i]!));
  return {
    lead(level, halvings) {
      for (const i of level.holePixels) {
        const x = i % level.width;
        const y = (i - x) / level.width;
        const wanted = expected[(y >> halvings) * width + (x >> halvings)]!;
        const found = level.features[4 * i + 3]! + LEAST_TEXTURE;
        const missing = wanted - found;
        const tooMuch = found - TOO_LIVELY * wanted;
        if (missing > 0) level.features[4 * i + 3] = Math.round(found - LEAST_TEXTURE + RAISED_BY * missing);
        else if (pastEdge && tooMuch > 0)
          level.features[4 * i + 3] = Math.round(found - LEAST_TEXTURE - LOWERED_BY * tooMuch);
      }
    },
  };
}
