import { kernels } from '../../../tests/support/kernels.ts';
import { noise, pictureOf } from '../../../tests/support/pictures.ts';
import { LumaSquares } from './lumaSquares.ts';
import { screeningOf } from './screening.ts';
import type { CopiedPart, Screening } from './seamSystem.ts';

const [WIDTH, HEIGHT] = [200, 80];

/** Sky with grain on the left, boards on the right; all of it copied. */
function screened(): Screening {
  const grain = noise(5, 3);
  const image = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = (x < WIDTH / 2 ? 170 + y / 20 : x % 14 < 4 ? 60 : 150) + grain();
    return [value, value, value];
  });
  const part = new Uint8Array(WIDTH * HEIGHT).fill(1);
  const copied = { image, part, unknown: part, box: { x: 0, y: 0, width: WIDTH, height: HEIGHT } };
  return screeningOf(copied.box, new LumaSquares(copied as unknown as CopiedPart, image.data, kernels));
}

test('tone differences fade slowly in smooth areas, grain or not, and soon in lively ones', () => {
  const screening = screened();
  const fadesOver = (x: number): number => 1 / Math.sqrt(screening.at(x, 40));
  expect(fadesOver(30)).toBeGreaterThan(150);
  expect(fadesOver(170)).toBeCloseTo(1 / Math.sqrt(0.004), 0);
});
