import type { Mark, MarkShape } from '../../../operations/marks/markSchema.ts';
import { sameView, type SphereView } from '../../../core/sphere/sphereView.ts';
import type { Step } from '../../../operations/recipe.ts';
import { strokeClear } from '../../../operations/kinds/strokeClear/index.ts';
import type { TakeSpec } from '../../../operations/rebuild/rebuildSchema.ts';

/** Which take a stroke gets: how often its place was stroked before chooses it, so that stroking again gives another one. */
export function strokeTake(mark: Mark, steps: readonly Step[], view?: SphereView): TakeSpec {
  const { strategies } = strokeClear;
  const [stroke] = mark.shapes;
  const before = steps.filter(
    (step) =>
      step.type === strokeClear.type &&
      sameView(step.params.view, view) &&
      step.params.mark!.shapes.some((shape) => overlap(shape, stroke!)),
  ).length;
  const offered = Math.min(4, strategies.length);
  return { strategy: strategies[before % offered]!, seed: 1 + Math.floor(before / offered) };
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
