import { pictureOf } from '../../../tests/support/pictures.ts';
import { plateOf } from './plate.ts';

const FRAMED = pictureOf(40, 20, () => [50, 60, 70]);
const PHOTO = [
  { x: 10, y: 0 },
  { x: 30, y: 0 },
  { x: 30, y: 20 },
  { x: 10, y: 20 },
] as const;
// The frame ends where the photo does above and below: only its sides count there.
const alphaOf = (rim: 'soft' | 'hard' | 'none', rimPx: number) => {
  const tall = PHOTO.map(({ x, y }) => ({ x, y: y === 0 ? -100 : 120 })) as unknown as typeof PHOTO;
  const plate = plateOf(FRAMED, tall, rim, rimPx);
  return (x: number) => plate.data[4 * (10 * 40 + x) + 3];
};

test('a plate keeps the margins and lets the photo’s place be seen through', () => {
  for (const rim of ['soft', 'hard', 'none'] as const) {
    const alpha = alphaOf(rim, 4);
    expect([alpha(0), alpha(9), alpha(20), alpha(30), alpha(39)]).toEqual([255, 255, 0, 255, 255]);
  }
});

test('its rim over the photo is soft, hard or not there', () => {
  const [soft, hard, none] = [alphaOf('soft', 4), alphaOf('hard', 4), alphaOf('none', 4)];
  expect([10, 11, 12, 13].map(soft)).toEqual([223, 159, 96, 32]);
  expect([10, 13, 14].map(hard)).toEqual([255, 255, 0]);
  expect(none(10)).toBe(0);
});
