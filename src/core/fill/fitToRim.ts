import { Matrix, solve } from 'ml-matrix';
import type { Affine } from '../image/affine.ts';
import { requireSameSize, type RasterImage } from '../image/rasterImage.ts';
import { boundsOf, type Mask } from '../mask/mask.ts';
import { RimRing, type RimFit } from './rimRing.ts';

/** A mark is about so many work px wide and high when a fit is looked for, and so many times as many at last. */
const WORK_SIDE = 48;
const FINER = 4;
/** How far from the place pointed at is looked, in sides of the mark, and in steps of how many work px at first. */
const REACH = 0.2;
const FIRST_STEP = 2;
/** Sizes of the place against the mark's that are tried, and beside the best of them. */
const SIZES = [0.76, 0.87, 1, 1.15, 1.32];
const NEARER_SIZES = [0.94, 1, 1.06];
/** What going as far as is looked costs, and as much larger as is tried, in shares of the difference where one points. */
const FAR_COST = 0.1;
/** A fit must leave at most so much of the difference. */
const BETTER = 0.92;
const MAX_STEPS = 12;
/** In work px. */
const SETTLED = 0.01;
/** Holds turns and changes of size back from what the ring hardly tells. */
const STIFFNESS = 4;
const SHIFT_STIFFNESS = 0.01;

/**
 * Which place near the one that is pointed at (`from`, px away) goes on with what lies around the mark, whatever its
 * light: the map from the mark to it, in coordinates of `image`, under which a ring around the mark differs least from
 * the picture there. Looked for over shifts and sizes, then refined by Gauss-Newton steps on all six numbers
 * (B. Lucas, T. Kanade: An Iterative Image Registration Technique, IJCAI, 1981), in which what differs much counts less
 * (P. Holland, R. Welsch: Robust Regression, 1977). Undefined where nothing fits clearly better than the plain
 * shift, and where most of the ring has no counterpart.
 */
export function fitToRim(image: RasterImage, mark: Mask, from: { dx: number; dy: number }): Affine | undefined {
  requireSameSize(image, mark, 'The mark');
  const bounds = boundsOf(mark);
  const side = Math.sqrt(bounds.width * bounds.height);
  const factor = Math.max(1, Math.round(side / WORK_SIDE));
  const plain: RimFit = { a: 1, b: 0, c: 0, d: 1, ...from };
  const coarse = new RimRing(image, mark, factor, from);
  const pointedAt = coarse.difference(plain);
  if (!(pointedAt < Infinity)) return undefined;
  let best = plain;
  let least = pointedAt;
  const look = (around: RimFit, sizes: readonly number[], far: number, step: number): void => {
    for (const size of sizes) {
      for (let y = -far; y <= far; y += step) {
        for (let x = -far; x <= far; x += step) {
          const fit = { ...around, a: around.a * size, d: around.d * size };
          fit.dx += x * factor;
          fit.dy += y * factor;
          const off = Math.hypot(fit.dx - from.dx, fit.dy - from.dy) / (REACH * side);
          const resized = Math.log(fit.a) / Math.log(SIZES.at(-1)!);
          const cost = coarse.difference(fit) + FAR_COST * pointedAt * (off ** 2 + resized ** 2);
          if (cost < least) [best, least] = [fit, cost];
        }
      }
    }
  };
  look(plain, SIZES, FIRST_STEP * Math.ceil((REACH * side) / factor / FIRST_STEP), FIRST_STEP);
  look(best, NEARER_SIZES, FIRST_STEP - 1, 1);
  const fine = new RimRing(image, mark, Math.max(1, Math.round(factor / FINER)), from);
  best = refine(fine, refine(coarse, best));
  // Between pixels grain is evened out, which is no fit.
  const half = fine.factor / 2;
  const unfitted = [0, half].flatMap((dx) => [0, half].map((dy) => ({ ...plain, dx: from.dx + dx, dy: from.dy + dy })));
  const unfittedDifference = Math.min(...unfitted.map((fit) => fine.difference(fit)));
  if (!(fine.difference(best) < BETTER * unfittedDifference)) return undefined;
  const { a, b, c, d, dx, dy } = best;
  const { x, y } = coarse.centre;
  return { a, b, c, d, tx: x + dx - a * x - b * y, ty: y + dy - c * x - d * y };
}

/** Gauss-Newton steps, as long as they lessen the difference. */
function refine(ring: RimRing, start: RimFit): RimFit {
  let best = start;
  let least = ring.difference(start);
  for (let k = 0; k < MAX_STEPS; k++) {
    const equations = ring.equations(best);
    if (!equations) break;
    const { normal, right } = equations;
    for (let i = 0; i < 6; i++) normal[i]![i]! += ring.samples * (i < 4 ? STIFFNESS : SHIFT_STIFFNESS);
    const by = solve(new Matrix(normal), Matrix.columnVector(right)).to1DArray();
    const [a, b, c, d] = by.slice(0, 4).map((value) => value / ring.side) as [number, number, number, number];
    const next: RimFit = {
      a: best.a + a,
      b: best.b + b,
      c: best.c + c,
      d: best.d + d,
      dx: best.dx + by[4]! * ring.factor,
      dy: best.dy + by[5]! * ring.factor,
    };
    const difference = ring.difference(next);
    if (!(difference < least)) break;
    [best, least] = [next, difference];
    if (by.slice(0, 6).every((value) => Math.abs(value) < SETTLED)) break;
  }
  return best;
}
