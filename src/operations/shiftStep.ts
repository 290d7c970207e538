import { shiftMark } from './marks/shiftMark.ts';
import { markSchema } from './marks/markSchema.ts';
import { movedPlane } from './rebuild/rebuildMarked.ts';
import { planeSchema } from './rebuild/rebuildSchema.ts';
import type { Step } from './recipe.ts';
import { textSchema } from './text/schema.ts';
import { reframeSchema } from './reframe/schema.ts';

/** The place of a frame step's frame in the picture before it: nothing while it is switched off. */
export function frameOrigin({ type, enabled, params }: Pick<Step, 'type' | 'enabled' | 'params'>): {
  x: number;
  y: number;
} {
  if (type !== 'reframe' || !enabled) return { x: 0, y: 0 };
  const { x, y } = reframeSchema.parse(params).frame.rect;
  return { x, y };
}

/** A step with all that it marks moved by whole px, as its picture has come to lie elsewhere in its frame. */
export function shiftStep(step: Step, dx: number, dy: number): Step {
  const params = shiftMarks(step.params, dx, dy);
  if (step.type === 'text') {
    const { x, y } = textSchema.parse(step.params);
    return { ...step, params: { ...params, x: x + dx, y: y + dy } as unknown as Step['params'] };
  }
  if (step.type !== 'reframe') return { ...step, params };
  const { frame } = reframeSchema.parse(step.params);
  const rect = { ...frame.rect, x: frame.rect.x + dx, y: frame.rect.y + dy };
  return { ...step, params: { ...params, frame: { ...frame, rect } } as unknown as Step['params'] };
}

/** A record whose marks, lists of marks and planes are moved by whole px; all else stays. */
export function shiftMarks<T extends object>(record: T, dx: number, dy: number): T {
  const shifted = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(shifted);
    const plane = planeSchema.safeParse(value);
    if (plane.success) return { ...movedPlane(plane.data, dx, dy), on: plane.data.on };
    const mark = markSchema.safeParse(value);
    return mark.success ? shiftMark(mark.data, dx, dy) : value;
  };
  return Object.fromEntries(Object.entries(record).map(([name, value]) => [name, shifted(value)])) as T;
}
