import { floatsBy } from '../numeric/filled.ts';
import { interpolateHarmonically } from '../numeric/interpolateHarmonically.ts';
import type { Level, LevelPixels } from './level.ts';
import { nearHole } from './nearHole.ts';

const SWEEPS = 200;
/** So far from a hole is around it. */
const AROUND_PX = 4;
/** Texture measures below this count as none: they are compared by their logarithms. */
const MIN_TEXTURE = 8;
/** The share of what the texture of a hole falls short of what is expected that it is raised by. */
const RAISED_BY = 0.3;
/** Past the picture's edge it is lowered by a share of what is more than so many times as lively as expected. */
const LOWERED_BY = 0.2;
const TOO_LIVELY = 1.4;

/**
 * How much texture (T, and a little more) is expected in a hole, a value a pixel of a pyramid's coarsest level: what a
 * harmonic interpolation of the logarithms of T around it gives.
 */
export function expectTexture({ width, height, hole, features }: LevelPixels): Float32Array<ArrayBuffer> {
  const logarithms = floatsBy(hole.length, (i) => Math.log(features[4 * i + 3]! + MIN_TEXTURE));
  interpolateHarmonically(logarithms, hole, width, height, SWEEPS);
  return floatsBy(hole.length, (i) => Math.exp(logarithms[i]!));
}

/** The mean texture measure (T) close around a hole; 0 where nothing is known there. */
export function textureAround({ width, height, hole, features }: LevelPixels): number {
  const isNear = nearHole({ width, height, hole }, AROUND_PX);
  let sum = 0;
  let count = 0;
  for (let i = 0; i < hole.length; i++) {
    if (hole[i] || !isNear[i]) continue;
    sum += features[4 * i + 3]!;
    count++;
  }
  return sum / Math.max(1, count);
}

/**
 * Leads the texture measure (T) of a level's hole towards what is expected; `level` is halved `halvings` times to the
 * one it was expected on, which is `across` px wide. Means over patches that disagree are smooth, and the smoother a place
 * is, the smoother are the donors that fit it: without being raised, lively ground is rebuilt from its calmest parts. Past
 * the picture's edge, where nothing on the other side holds it, what is much livelier than the rim comes in as well, and
 * is held back.
 */
export function leadTexture(
  level: Level,
  expected: Float32Array,
  across: number,
  halvings: number,
  pastEdge: boolean,
): void {
  const { width, holePixels, features } = level;
  for (const i of holePixels) {
    const x = i % width;
    const y = (i - x) / width;
    const wanted = expected[(y >> halvings) * across + (x >> halvings)]!;
    const found = features[4 * i + 3]! + MIN_TEXTURE;
    const missing = wanted - found;
    const tooMuch = found - TOO_LIVELY * wanted;
    if (missing > 0) features[4 * i + 3] = Math.round(found - MIN_TEXTURE + RAISED_BY * missing);
    else if (pastEdge && tooMuch > 0) features[4 * i + 3] = Math.round(found - MIN_TEXTURE - LOWERED_BY * tooMuch);
  }
}
