import type { Mapping } from './following.ts';
import { followMark } from './marks/followMark.ts';
import { markSchema } from './marks/markSchema.ts';
import { planeSchema, type PlaneParams } from './rebuild/rebuildSchema.ts';

/** A record whose marks, lists of marks and planes lie where a mapping puts them; all else stays. */
export function followMarks<T extends object>(record: T, by: Mapping): T {
  const followed = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(followed);
    const plane = planeSchema.safeParse(value);
    if (plane.success) return { ...plane.data, corners: plane.data.corners.map(by.to) as PlaneParams['corners'] };
    const mark = markSchema.safeParse(value);
    return mark.success ? followMark(mark.data, by) : value;
  };
  return Object.fromEntries(Object.entries(record).map(([name, value]) => [name, followed(value)])) as T;
}
