import { outlineContrast } from './outlineContrast.ts';

test('only steps across the outline count, not those within either side', () => {
  const [width, height] = [6, 4];
  // Columns 0 to 5 in red: 0, 90, 100, | 130, 200, 10; the outline runs between columns 2 and 3.
  const red = [0, 90, 100, 130, 200, 10];
  const colour = new Float32Array(3 * width * height);
  const inside = new Float32Array(width * height);
  for (let i = 0; i < inside.length; i++) {
    colour[3 * i] = red[i % width]!;
    colour[3 * i + 2] = i % width < 3 ? 0 : 40;
    inside[i] = i % width < 3 ? 0.9 : 0.2;
  }
  const scene = { width, height, colour, marked: inside };
  expect(outlineContrast(scene, inside)).toBeCloseTo(50, 3);
  expect(outlineContrast(scene, new Float32Array(inside.length))).toBe(Infinity);
});
