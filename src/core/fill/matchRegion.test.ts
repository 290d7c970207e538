import { kernels } from '../../../tests/support/kernels.ts';
import { maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage } from '../image/rasterImage.ts';
import { cropMask } from '../mask/mask.ts';
import { drain } from '../progress.ts';
import { matchRegion } from './matchRegion.ts';
import { FILL_STRATEGIES } from './strategy.ts';

const [WIDTH, HEIGHT] = [1200, 400];
const STRIP = { x: WIDTH - 60, y: 0, width: 60, height: HEIGHT };

test('past the edge a place is matched as finely however much farther is looked', () => {
  const grain = noise(3, 60);
  const photo = pictureOf(WIDTH, HEIGHT, () => [90 + grain(), 90, 90]);
  const mark = maskOf(WIDTH, HEIGHT, (x) => x >= STRIP.x);
  const factorIn = (left: number, pastEdge: boolean): number => {
    const region = { x: left, y: 0, width: WIDTH - left, height: HEIGHT };
    const input = {
      image: cropImage(photo, region),
      hole: cropMask(mark, region).data,
      chosenDonors: false,
      pastEdge,
      onPlane: false,
      box: { ...STRIP, x: STRIP.x - left },
    };
    kernels.reset();
    return drain(matchRegion(input, FILL_STRATEGIES[0]!, 1, kernels)).factor;
  };
  const near = factorIn(WIDTH - 460, true);
  expect(factorIn(0, true)).toBe(near);
  expect(factorIn(0, false)).toBeGreaterThan(near);
});
