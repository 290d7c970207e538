import { carryPoint } from '../core/geometry/carryPoint.ts';
import { wholeShiftOf } from '../core/geometry/warp.ts';
import type { Size } from '../core/image/rect.ts';
import type { Reshape } from './computation.ts';
import { followMarks } from './followMarks.ts';
import { shiftBy, type Mapping } from './following.ts';
import { kindOf } from './kinds.ts';
import type { Step } from './recipe.ts';

// When a step that changes the frame is changed, everything after it says where things are in a picture that has moved.
// Places are led back through the step as it was and forth through it as it is, and so on through the steps after it.

/** How steps carry pictures over, where that is found by looking at them. */
export interface KnownReshapes {
  /** By step, before the change. */
  then?: ReadonlyMap<string, Reshape>;
  /** Of the step that has changed, now. */
  now?: Reshape | undefined;
}

export interface Followed {
  steps: Step[];
  /** How places of the finished picture follow; undefined where they can't, or nothing has moved. */
  by: Mapping | undefined;
  /** Those that could not follow, and keep what they had. */
  kept: Step[];
}

interface Carried {
  size: Size;
  /** Undefined where it is not known. */
  mapping: Mapping | undefined;
}

const SAME = shiftBy(0, 0);
/** Places that have moved by less than this have not moved. */
const STILL_PX = 0.01;

/** How a step carries places over, and the size it gives the picture. */
function carriedBy({ type, enabled, params }: Step, photo: Size, known: Reshape | undefined): Carried {
  const kind = kindOf(type);
  const isStill = !enabled || (!kind.reshape && !kind.reshapesByLook) || kind.turn;
  if (isStill) return { size: photo, mapping: SAME };
  try {
    const reshape = kind.reshape?.(params, photo) ?? known;
    if (!reshape) return { size: kind.resized?.(params) ?? photo, mapping: undefined };
    const shift = wholeShiftOf(reshape.warps);
    return { size: reshape.size, mapping: shift ? shiftBy(shift.x, shift.y) : carryPoint(reshape.warps) };
  } catch {
    // The frame can't be made: nothing is known of places after it.
    return { size: photo, mapping: undefined };
  }
}

/**
 * Later steps of a list whose step `changed` was another before, with all that they mark where it is in the picture.
 * `before` is that step as it was; to take one out, or put one in, switch it off on one side. Steps of direct views into
 * spheres are left as they are.
 */
export function followSteps(
  steps: readonly Step[],
  changed: Step,
  before: Step,
  source: Size,
  { then: known = new Map(), now: fresh }: KnownReshapes = {},
): Followed {
  const at = steps.findIndex(({ id }) => id === changed.id);
  const first = steps.slice(0, at).reduce((size, step) => carriedBy(step, size, known.get(step.id)).size, {
    width: source.width,
    height: source.height,
  });
  const then = carriedBy(before, first, known.get(before.id));
  const now = carriedBy(changed, first, fresh);
  let by = between(then, now);
  let [sizeThen, sizeNow] = [then.size, now.size];
  const kept: Step[] = [];
  const followed = steps.map((step, index) => {
    if (index <= at || isStill(by, sizeThen) || step.params.view) return step;
    const moved = by && followStep(step, by);
    if (!moved) kept.push(step);
    const result = moved ?? step;
    // What is found by looking is found again in much the same way: the picture is the same, elsewhere.
    const [old, next] = [step, result].map((each, k) =>
      carriedBy(each, k === 0 ? sizeThen : sizeNow, known.get(step.id)),
    ) as [Carried, Carried];
    by = by && old.mapping && next.mapping && chained(inverse(old.mapping), by, next.mapping);
    [sizeThen, sizeNow] = [old.size, next.size];
    return result;
  });
  return { steps: followed, by: isStill(by, sizeThen) ? undefined : by, kept };
}

/** A step whose marks and places follow; undefined where its kind can't. */
function followStep(step: Step, by: Mapping): Step | undefined {
  const { follow, schema } = kindOf(step.type);
  const params = follow ? follow(step.params, by) : followMarks(step.params, by);
  // What lies beyond all bounds now is no step any more.
  const checked = params && schema.safeParse(params);
  return checked?.success ? { ...step, params: checked.data } : undefined;
}

const between = (then: Carried, now: Carried): Mapping | undefined =>
  then.mapping && now.mapping && chained(inverse(then.mapping), now.mapping);

const inverse = ({ to, back, shift }: Mapping): Mapping => ({
  to: back,
  back: to,
  shift: shift && { dx: -shift.dx, dy: -shift.dy },
});

function chained(...mappings: Mapping[]): Mapping {
  const shifts = mappings.map(({ shift }) => shift);
  if (shifts.every((shift) => shift !== undefined)) {
    const sum = (way: 'dx' | 'dy'): number => shifts.reduce((all, shift) => all + shift[way], 0);
    return shiftBy(sum('dx'), sum('dy'));
  }
  return {
    to: (point) => mappings.reduce((at, { to }) => to(at), point),
    back: (point) => mappings.reduceRight((at, { back }) => back(at), point),
  };
}

/** Whether a mapping leaves everything where it is. */
function isStill(by: Mapping | undefined, { width, height }: Size): boolean {
  if (!by) return false;
  if (by.shift) return by.shift.dx === 0 && by.shift.dy === 0;
  return [0, 0.5, 1].every((u) =>
    [0, 0.5, 1].every((v) => {
      const from = { x: u * width, y: v * height };
      const to = by.to(from);
      return Math.hypot(to.x - from.x, to.y - from.y) < STILL_PX;
    }),
  );
}
