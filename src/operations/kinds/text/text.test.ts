import { kernels } from '../../../../tests/support/kernels.ts';
import { differingPixels, pictureOf } from '../../../../tests/support/pictures.ts';
import type { RasterImage } from '../../../core/image/rasterImage.ts';
import { drain } from '../../../core/progress.ts';
import { composed } from '../../carryPicture.ts';
import { layLayer } from '../../layLayer.ts';
import { EMPTY_MARK } from '../../marks/markSchema.ts';
import { text } from './index.ts';
import { computation } from './compute.ts';
import { textSchema } from './schema.ts';

const PHOTO = pictureOf(80, 60, () => [100, 100, 100]);
const MEMO = { get: () => undefined, set: () => undefined };

/** A letter of one full box, half a letter size wide. */
const params = (change: object = {}) =>
  textSchema.parse({
    text: 'I\nspring fair of Port Amsel',
    face: '',
    align: 'left',
    lineHeight: 1,
    outline: 'M0 0L500 0L500 1000L0 1000Z',
    block: { width: 500, height: 1000 },
    x: 10,
    y: 12,
    sizePx: 20,
    colour: '#ff8000',
    opacity: 1,
    take: { strategy: 'as it is', seed: 1 },
    ...change,
  });

function laid(change: object, photo: RasterImage = PHOTO): RasterImage {
  const given = params(change);
  const lying = text.layer!.lies(given, photo);
  const input = { params: given, photo, regions: [], inputKey: '', memo: MEMO, kernels };
  return composed(photo, layLayer(drain(computation.apply(input)).patches, lying, photo));
}
const at = ({ width, data }: RasterImage, x: number, y: number): number[] => [
  ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4),
];

test('letters lie where they are put, in their colour, and nothing else changes', () => {
  const picture = laid({});
  expect(differingPixels(picture, PHOTO)).toHaveLength(10 * 20);
  expect(at(picture, 10, 12)).toEqual([255, 128, 0, 255]);
  expect(at(picture, 19, 31)).toEqual([255, 128, 0, 255]);
  expect(at(picture, 20, 31)).toEqual([100, 100, 100, 255]);
});

test('half as strong they let half of the picture through; over nothing they stand by themselves', () => {
  expect(at(laid({ opacity: 0.5 }), 15, 20)).toEqual([178, 114, 50, 255]);
  const empty = { ...PHOTO, data: new Uint8ClampedArray(PHOTO.data.length) };
  expect(at(laid({ opacity: 0.5 }, empty), 15, 20)).toEqual([255, 128, 0, 128]);
});

test('text at the edge is cut off there; outside, or without a letter, it is refused with a sentence', () => {
  expect(differingPixels(laid({ x: -5, y: 50 }), PHOTO)).toHaveLength(5 * 10);
  expect(() => laid({ x: 300 })).toThrow(/lies outside the picture/);
  expect(() => laid({ outline: '' })).toThrow(/no text yet/);
});

test('behind what is marked the letters are hidden as far as it is marked', () => {
  const shape = { kind: 'lasso', combine: 'also', points: [0, 0, 15, 0, 15, 60, 0, 60] } as const;
  const picture = laid({ behind: { ...EMPTY_MARK, shapes: [shape] } });
  expect(differingPixels(picture, PHOTO)).toHaveLength(5 * 20);
  expect(at(picture, 14, 20)).toEqual([100, 100, 100, 255]);
  expect(at(picture, 15, 20)).toEqual([255, 128, 0, 255]);
});

test('where it lies and how strong it is make no other letters; what they look like, and what hides them, does', () => {
  const named = (change: object): string => JSON.stringify(text.layer!.content(params(change), PHOTO));
  const usual = named({});
  for (const change of [{ x: 30, y: -4 }, { opacity: 0.3 }, { text: 'I' }]) expect(named(change)).toBe(usual);
  for (const change of [{ x: 10.5 }, { sizePx: 21 }, { colour: '#ff8001' }]) expect(named(change)).not.toBe(usual);
  const behind = { ...EMPTY_MARK, shapes: [{ kind: 'lasso', combine: 'also', points: [0, 0, 9, 0, 9, 9] }] };
  expect(named({ behind, x: 11 })).not.toBe(named({ behind }));
});

test('it is told by its first words', () => {
  expect(text.summarize(params())).toBe('Text “I spring fair of Port Am…”');
  expect(text.summarize(params({ text: 'Kiln open' }))).toBe('Text “Kiln open”');
});

test.each([{ colour: 'red' }, { opacity: 2 }, { sizePx: 0 }, { lineHeight: 9 }])('%j is refused', (change) => {
  expect(() => params(change)).toThrow();
});
