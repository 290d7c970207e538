import type { Patch } from '../../../../operations/computation.ts';
import { createImage } from '../../../../core/image/rasterImage.ts';
import { tellingPatch } from './tellingPatch.ts';

const patch = (x: number, side: number, grey: number): Patch => {
  const image = createImage(side, side);
  image.data.fill(grey);
  return { rect: { x, y: 0, width: side, height: side }, image };
};
const OLD = (grey: number) => patch(0, 10, grey);
const NEW = (grey: number) => patch(50, 20, grey);

test('takes that rebuild the old place differently are told apart there, though the new one is larger', () => {
  expect(
    tellingPatch([
      [OLD(90), NEW(40)],
      [OLD(120), NEW(40)],
      [OLD(91), NEW(40)],
    ]),
  ).toBe(0);
});

test('takes that place the subject differently are told apart at the new place', () => {
  expect(
    tellingPatch([
      [OLD(90), NEW(40)],
      [OLD(90), NEW(60)],
    ]),
  ).toBe(1);
});

test('where there is nothing to compare the largest place is shown', () => {
  expect(tellingPatch([[OLD(90), NEW(40)]])).toBe(1);
  expect(tellingPatch([[OLD(90), NEW(40)], [OLD(90)]])).toBe(1);
  expect(tellingPatch([])).toBe(0);
});
