import { layOver } from './layOver.ts';

const image = (width: number, ...pixels: number[][]) => ({
  width,
  height: pixels.length / width,
  data: new Uint8ClampedArray(pixels.flat()),
});
const GREY = [100, 100, 100, 255];

test('what covers wholly replaces, what covers by half mixes, what does not cover changes nothing', () => {
  const out = image(3, GREY, GREY, GREY);
  layOver(out, { x: 0, y: 0 }, image(3, [200, 0, 50, 255], [200, 0, 50, 128], [200, 0, 50, 0]), 1);
  expect([...out.data]).toEqual([200, 0, 50, 255, 150, 50, 75, 255, ...GREY]);
});

test('weakened it covers by so much less; over nothing it stands by itself', () => {
  const out = image(2, GREY, [9, 9, 9, 0]);
  layOver(out, { x: 0, y: 0 }, image(2, [200, 0, 50, 255], [200, 0, 50, 255]), 0.5);
  expect([...out.data]).toEqual([150, 50, 75, 255, 200, 0, 50, 128]);
});

test('what lies beside the picture is left away', () => {
  const out = image(2, GREY, GREY, GREY, GREY);
  const layer = image(2, [1, 1, 1, 255], [2, 2, 2, 255], [3, 3, 3, 255], [4, 4, 4, 255]);
  layOver(out, { x: -1, y: -1 }, layer, 1);
  layOver(out, { x: 1, y: 1 }, layer, 1);
  layOver(out, { x: 7, y: 0 }, layer, 1);
  expect([...out.data]).toEqual([4, 4, 4, 255, ...GREY, ...GREY, 1, 1, 1, 255]);
});
