import { maskFromRows } from '../../../tests/support/pictures.ts';
import { separateAreas } from './components.ts';

test('areas that touch only at a corner are two, the larger first; specks are left out', () => {
  const mask = maskFromRows('##...#', '##....', '..###.', '..###.');
  const areas = separateAreas(mask, 2);
  expect(areas.map((area) => Array.from(area.data).filter(Boolean).length)).toEqual([6, 4]);
  expect(areas[0]!.data[2 * 6 + 2]).toBe(255);
  expect(areas[1]!.data[0]).toBe(255);
});

test('an area keeps its strengths', () => {
  const mask = maskFromRows('##', '..');
  mask.data[1] = 90;
  expect(Array.from(separateAreas(mask, 1)[0]!.data)).toEqual([255, 90, 0, 0]);
});
