import simplify from 'simplify-js';
import type { Combine } from '../../../../core/mask/combine.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';

/** Fewer photo px than this across are taken for a slip of the hand. */
const SMALLEST_PX = 3;

/** A closed outline without the points that lie within a tolerance of it; undefined for a slip of the hand. */
export function outlineShape(outline: Point[], combine: Combine, tolerancePx: number): MarkShape | undefined {
  const points = simplify(outline, tolerancePx, true);
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const across = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  if (points.length < 3 || across < SMALLEST_PX) return undefined;
  return { kind: 'lasso', combine, points: points.flatMap(({ x, y }) => [tenth(x), tenth(y)]) };
}

/** A tenth of a pixel is finer than any outline is drawn, and keeps recipes short. */
const tenth = (value: number): number => Math.round(value * 10) / 10;
