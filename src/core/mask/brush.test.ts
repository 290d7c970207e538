import { rasteriseStroke } from './brush.ts';
import { areaOf } from './mask.ts';

const hard = { radiusPx: 10, hardness: 1, intensity: 1 };

test('a hard dab has the area of its circle', () => {
  const area = areaOf(rasteriseStroke([32, 32], hard, 64, 64));
  expect(Math.abs(area - Math.PI * 100)).toBeLessThan(0.02 * Math.PI * 100);
});

test('a stroke over itself gets no denser than its intensity', () => {
  const mask = rasteriseStroke([10, 32, 54, 32, 10, 32], { ...hard, intensity: 0.5 }, 64, 64);
  expect(Math.max(...mask.data)).toBe(128);
});

test('a soft brush falls off from the centre, a hard one does not', () => {
  const soft = rasteriseStroke([32.5, 32.5], { ...hard, hardness: 0 }, 64, 64);
  const at = (mask: typeof soft, dx: number) => mask.data[32 * 64 + 32 + dx]!;
  expect(at(soft, 0)).toBeGreaterThan(at(soft, 5));
  expect(at(soft, 5)).toBeGreaterThan(at(soft, 9));
  expect(at(rasteriseStroke([32.5, 32.5], hard, 64, 64), 8)).toBe(255);
});

test('a size that is not above 0 is refused', () => {
  expect(() => rasteriseStroke([1, 1], { ...hard, radiusPx: 0 }, 4, 4)).toThrow('above 0 px');
});
