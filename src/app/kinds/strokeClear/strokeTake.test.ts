import { EMPTY_MARK, type Mark } from '../../../operations/marks/markSchema.ts';
import type { Step } from '../../../operations/recipe.ts';
import { strokeTake } from './strokeTake.ts';

const stroke = (...points: number[]): Mark => ({
  ...EMPTY_MARK,
  shapes: [{ kind: 'stroke', combine: 'startOver', points, radiusPx: 10, hardness: 1, intensity: 1 }],
});
const stepOf = (mark: Mark): Step => ({
  id: 's',
  type: 'strokeClear',
  version: 1,
  enabled: true,
  params: { mark, take: { strategy: 'x', seed: 1 } },
});

test('the same place stroked again, or across, gives other takes; a place far away the first one', () => {
  const across = stroke(100, 100, 300, 104);
  const first = strokeTake(across, []);
  const again = strokeTake(across, [stepOf(across)]);
  const upright = strokeTake(stroke(200, 20, 204, 200), [stepOf(across)]);
  expect(again).not.toEqual(first);
  expect(upright).not.toEqual(first);
  expect(strokeTake(stroke(900, 900, 980, 900), [stepOf(across)])).toEqual(first);
});

test('strokes without end never repeat a take', () => {
  const mark = stroke(0, 0, 50, 0);
  const takes = Array.from({ length: 10 }, (_, k) =>
    strokeTake(
      mark,
      Array.from({ length: k }, () => stepOf(mark)),
    ),
  );
  expect(new Set(takes.map((take) => JSON.stringify(take))).size).toBe(10);
});
