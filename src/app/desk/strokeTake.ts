import type { Mark, MarkShape } from '../../operations/marks/markSchema.ts';
import { sameView, type SphereView } from '../../core/sphere/sphereView.ts';
import type { Step } from '../../operations/recipe.ts';
import { operationOf } from '../../operations/catalogue.ts';
import type { TakeSpec } from '../../operations/rebuild/rebuildSchema.ts';

/**
 * Which take a stroke gets: how often its place was stroked before, and which way the stroke runs, choose the strategy,
 * so that stroking again, or across, gives another one.
 */
export function strokeTake(mark: Mark, steps: readonly Step[], view?: SphereView): TakeSpec {
  const { strategies } = operationOf('strokeClear');
  const [stroke] = mark.shapes;
  const before = steps.filter(
    (step) =>
      step.type === 'strokeClear' &&
      sameView(step.params.view, view) &&
      step.params.mark!.shapes.some((shape) => overlap(shape, stroke!)),
  ).length;
  const offered = Math.min(4, strategies.length);
  const turn = before + (runsUpright(stroke!) ? 1 : 0);
  return { strategy: strategies[turn % offered]!, seed: 1 + Math.floor(turn / offered) };
}

const pointsOf = (shape: MarkShape): number[] =>
  shape.kind === 'raster' ? [shape.x, shape.y, shape.x + shape.width, shape.y + shape.height] : shape.points;

function boundsOf(shape: MarkShape): { left: number; right: number; top: number; bottom: number } {
  const points = pointsOf(shape);
  const xs = points.filter((_, i) => i % 2 === 0);
  const ys = points.filter((_, i) => i % 2 === 1);
  const reach = shape.kind === 'stroke' ? shape.radiusPx : 0;
  return {
    left: Math.min(...xs) - reach,
    right: Math.max(...xs) + reach,
    top: Math.min(...ys) - reach,
    bottom: Math.max(...ys) + reach,
  };
}

function overlap(a: MarkShape, b: MarkShape): boolean {
  const [p, q] = [boundsOf(a), boundsOf(b)];
  return p.left < q.right && q.left < p.right && p.top < q.bottom && q.top < p.bottom;
}

function runsUpright(shape: MarkShape): boolean {
  const points = pointsOf(shape);
  const [x0, y0] = points;
  const [x1, y1] = points.slice(-2);
  return Math.abs(y1! - y0!) > Math.abs(x1! - x0!);
}
