import { maskOf, noise } from '../../../tests/support/pictures.ts';
import { hasShadeOutline } from './shadeOutline.ts';
import { describePixels } from './subjectScene.ts';

const [WIDTH, HEIGHT] = [80, 60];
const isPost = (x: number, y: number) => x >= 10 && x < 20 && y >= 10 && y < 40;
const isArea = (x: number, y: number) => x >= 20 && x < 60 && y >= 22 && y < 40;
const [POST, AREA] = [maskOf(WIDTH, HEIGHT, isPost), maskOf(WIDTH, HEIGHT, isArea)];

function featuresOf(colourAt: (x: number, y: number) => [number, number, number]): Float32Array {
  const grain = noise(4, 12);
  const colour = new Float32Array(3 * WIDTH * HEIGHT);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const g = grain();
    colour.set(
      colourAt(i % WIDTH, Math.floor(i / WIDTH)).map((value) => value + g),
      3 * i,
    );
  }
  return describePixels({ width: WIDTH, height: HEIGHT, colour, marked: new Float32Array(WIDTH * HEIGHT) }, 0);
}

test('a ground that lies darker on one side of the outline all along it is in shade, bluer as it may be', () => {
  const features = featuresOf((x, y) => (isArea(x, y) ? [95, 98, 98] : y < 30 ? [190, 180, 160] : [160, 150, 135]));
  expect(hasShadeOutline(AREA, POST, features)).toBe(true);
});

test('what is darker than a wall behind it but lighter than the floor below is a thing', () => {
  const features = featuresOf((x, y) => (isArea(x, y) ? [95, 90, 80] : y < 40 ? [190, 180, 160] : [40, 38, 34]));
  expect(hasShadeOutline(AREA, POST, features)).toBe(false);
});

test('what is of another hue than all that it ends at is a thing', () => {
  const features = featuresOf((x, y) => (isArea(x, y) ? [120, 80, 40] : [190, 190, 190]));
  expect(hasShadeOutline(AREA, POST, features)).toBe(false);
});

test('an area that ends nowhere but at the subject is given the benefit of the doubt', () => {
  const features = featuresOf(() => [100, 100, 100]);
  const all = maskOf(WIDTH, HEIGHT, (x, y) => !isArea(x, y));
  expect(hasShadeOutline(AREA, all, features)).toBe(true);
});

test('the darker it is, the bluer a shade may be: as blue, what is hardly darker is a thing', () => {
  const lit: [number, number, number] = [200, 180, 130];
  const deep = featuresOf((x, y) => (isArea(x, y) ? [70, 70, 68] : lit));
  expect(hasShadeOutline(AREA, POST, deep)).toBe(true);
  const pale = featuresOf((x, y) => (isArea(x, y) ? [172, 172, 160] : lit));
  expect(hasShadeOutline(AREA, POST, pale)).toBe(false);
});
