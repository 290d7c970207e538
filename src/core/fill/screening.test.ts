import { kernels } from '../../../tests/support/kernels.ts';
import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { LumaSquares } from './lumaSquares.ts';
import { screeningOf } from './screening.ts';
import { SHORTEST_FADE_PX, type Screening } from './screeningField.ts';
import type { CopiedPart } from './copiedPart.ts';

const [WIDTH, HEIGHT] = [200, 80];

/** Sky with grain on the left, boards on the right; all of it copied. */
function screened(leastFade = SHORTEST_FADE_PX): Screening {
  const grain = noise(5, 3);
  const image = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = (x < WIDTH / 2 ? 170 + y / 20 : x % 14 < 4 ? 60 : 150) + grain();
    return [value, value, value];
  });
  const part = new Uint8Array(WIDTH * HEIGHT).fill(1);
  const copied = { image, part, unknown: part, box: { x: 0, y: 0, width: WIDTH, height: HEIGHT } };
  const squares = new LumaSquares(copied as unknown as CopiedPart, image.data, kernels);
  return screeningOf(copied.box, squares, leastFade);
}

const fadesOver = (screening: Screening, x: number): number => 1 / Math.sqrt(screening.at(x, 40));

test('tone differences fade slowly in smooth areas, grain or not, and soon in lively ones', () => {
  const screening = screened();
  expect(fadesOver(screening, 30)).toBeGreaterThan(150);
  expect(fadesOver(screening, 170)).toBeCloseTo(16, 0);
});

test('they fade as slowly as is asked in lively areas, too, which are no less lively for it', () => {
  const screening = screened(100);
  expect(fadesOver(screening, 30)).toBeGreaterThan(150);
  expect(fadesOver(screening, 170)).toBeCloseTo(100, 5);
  expect(screening.livelinessAt(170, 40)).toBeCloseTo(1, 5);
  expect(screening.livelinessAt(30, 40)).toBeLessThan(0.02);
});
