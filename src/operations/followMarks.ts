import { scaleAt, type Mapping } from './following.ts';
import { followMark } from './marks/followMark.ts';
import { markSchema } from './marks/markSchema.ts';
import { planeSchema, runOnSchema, type PlaneParams, type RunOnParams } from './rebuild/rebuildSchema.ts';

/** A record whose marks, lists of marks, planes and lines that run on lie where a mapping puts them; all else stays. */
export function followMarks<T extends object>(record: T, by: Mapping): T {
  const followed = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(followed);
    const plane = planeSchema.safeParse(value);
    if (plane.success) return { ...plane.data, corners: plane.data.corners.map(by.to) as PlaneParams['corners'] };
    const line = runOnSchema.safeParse(value);
    if (line.success) return followLine(line.data, by);
    const mark = markSchema.safeParse(value);
    return mark.success ? followMark(mark.data, by) : value;
  };
  return Object.fromEntries(Object.entries(record).map(([name, value]) => [name, followed(value)])) as T;
}

function followLine(line: RunOnParams, by: Mapping): RunOnParams {
  const [first, last] = [line.points[0]!, line.points.at(-1)!];
  const [atFirst, atLast] = line.widthsPx;
  return {
    ...line,
    points: line.points.map(by.to),
    widthsPx: [atFirst * scaleAt(by, first), atLast * scaleAt(by, last)],
  };
}
