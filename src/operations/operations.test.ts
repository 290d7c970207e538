import { kernels } from '../../tests/support/kernels.ts';
import { differingPixels, maskOf, noise, pictureOf } from '../../tests/support/pictures.ts';
import { resampleImage } from '../core/geometry/resampleImage.ts';
import { cropImage, type RasterImage } from '../core/image/rasterImage.ts';
import { drain } from '../core/progress.ts';
import { composePatches } from './composePatches.ts';
import { wholeKind } from '../../tests/support/kinds.ts';
import { KINDS } from './kinds.ts';
import { markFromMask, maskUnder, renderMark } from './marks/renderMark.ts';
import { EMPTY_MARK, type Mark } from './marks/markSchema.ts';
import type { StepResult } from './computation.ts';

const [WIDTH, HEIGHT] = [260, 180];
const isDisc = (x: number, y: number) => (x - 70) ** 2 + (y - 90) ** 2 < 18 ** 2;

/** A red disc on a striped ground. */
const PHOTO: RasterImage = (() => {
  const grain = noise(8, 5);
  return pictureOf(WIDTH, HEIGHT, (x, y) => {
    const g = grain();
    if (isDisc(x, y)) return [190 + g, 40 + g, 40 + g];
    const value = (y % 14 < 2 ? 70 : 160) + g;
    return [value, value, value * 0.8];
  });
})();

const MARK: Mark = {
  ...EMPTY_MARK,
  shapes: [{ kind: 'stroke', combine: 'startOver', points: [70, 90], radiusPx: 28, hardness: 1, intensity: 1 }],
};
const TO_THE_RIGHT = { dxPx: 110, dyPx: 10, scale: 1, turn: 0, mirror: 'none' as const };

function apply(type: string, extra: Record<string, unknown>, strategy?: string): StepResult {
  const operation = wholeKind(type);
  const take = { strategy: strategy ?? operation.strategies[0]!, seed: 1 };
  const params = operation.schema.parse({ mark: MARK, take, ...extra });
  const reshape =
    operation.reshape?.(params, PHOTO) ??
    (operation.reshapeBy && drain(operation.reshapeBy(params, PHOTO, PHOTO, kernels)));
  const photo = reshape ? drain(resampleImage(PHOTO, reshape.warps, reshape.size, kernels)) : PHOTO;
  const regions = operation.regions(params, photo, PHOTO).map((rect) => ({ rect, image: cropImage(photo, rect) }));
  const memo = new Map<string, unknown>();
  return drain(operation.apply({ params, photo, before: PHOTO, regions, inputKey: 'photo', memo, kernels }));
}

function composed(result: StepResult): RasterImage {
  // As large as the widest frame that is asked for here.
  const out = cropImage(PHOTO, { x: 0, y: 0, width: WIDTH, height: HEIGHT + 80 });
  composePatches(out, { x: 0, y: 0 }, result.patches);
  return out;
}

const isRed = (image: RasterImage, x: number, y: number) => {
  const i = 4 * (y * WIDTH + x);
  return image.data[i]! > image.data[i + 1]! + 70;
};
const countRed = (image: RasterImage) =>
  Array.from({ length: WIDTH * HEIGHT }, (_, i) => isRed(image, i % WIDTH, Math.floor(i / WIDTH))).filter(Boolean)
    .length;

const marked = maskUnder(renderMark(MARK, PHOTO), { x: 0, y: 0, width: WIDTH, height: HEIGHT });
const landed = maskOf(WIDTH, HEIGHT, (x, y) => x >= 110 && y >= 10 && marked.data[(y - 10) * WIDTH + x - 110]! > 0);

test('Clear takes the disc out and changes nothing outside the mark', () => {
  const image = composed(apply('clear', {}));
  expect(countRed(image)).toBe(0);
  expect(differingPixels(PHOTO, image).every((i) => marked.data[i]! > 0)).toBe(true);
});

test('Move puts the disc’s own pixels at the new place, empties the old one, and changes nothing else', () => {
  const image = composed(apply('move', { placement: TO_THE_RIGHT }));
  expect(isRed(image, 70, 90)).toBe(false);
  for (const [x, y] of [
    [70, 90],
    [64, 84],
    [75, 99],
  ] as const) {
    const from = 4 * (y * WIDTH + x);
    const to = 4 * ((y + 10) * WIDTH + x + 110);
    expect(Array.from(image.data.subarray(to, to + 4))).toEqual(Array.from(PHOTO.data.subarray(from, from + 4)));
  }
  expect(differingPixels(PHOTO, image).every((i) => marked.data[i]! > 0 || landed.data[i]! > 0)).toBe(true);
});

test('Duplicate leaves the old place exactly as it was', () => {
  const image = composed(apply('duplicate', { placement: TO_THE_RIGHT }));
  expect(isRed(image, 180, 100)).toBe(true);
  expect(differingPixels(PHOTO, image).every((i) => landed.data[i]! > 0)).toBe(true);
});

test('a shadow that comes along is as dark as is asked for', () => {
  // The disc's shadow lies to its right.
  const isShaded = (x: number, y: number) => !isDisc(x, y) && x > 70 && (x - 84) ** 2 + (y - 90) ** 2 < 18 ** 2;
  const photo = { ...PHOTO, data: PHOTO.data.slice() };
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    if (isShaded(i % WIDTH, Math.floor(i / WIDTH))) for (let c = 0; c < 3; c++) photo.data[4 * i + c]! *= 0.6;
  }
  const mark = { ...MARK, shapes: MARK.shapes.map((shape) => ({ ...shape, radiusPx: 40 })) };
  const tone = (shadowStrength: number): number => {
    const operation = wholeKind('move');
    const take = { strategy: operation.strategies[0], seed: 1 };
    const placement = { ...TO_THE_RIGHT, dyPx: 0 };
    const params = operation.schema.parse({ mark, take, placement, shadowStrength, closeness: 0 });
    const regions = operation.regions(params, photo).map((rect) => ({ rect, image: cropImage(photo, rect) }));
    const result = drain(operation.apply({ params, photo, regions, inputKey: 'p', memo: new Map(), kernels }));
    const out = { ...photo, data: photo.data.slice() };
    composePatches(out, { x: 0, y: 0 }, result.patches);
    let [sum, count] = [0, 0];
    for (let y = 84; y < 97; y++) {
      for (let x = 201; x < 208; x++, count++) sum += out.data[4 * (y * WIDTH + x) + 1]!;
    }
    return sum / count;
  };
  const [none, half, asItWas, deeper] = [0, 50, 100, 160].map(tone) as [number, number, number, number];
  expect(none - half).toBeGreaterThan(8);
  expect(half - asItWas).toBeGreaterThan(8);
  expect(asItWas - deeper).toBeGreaterThan(8);
});

test('a place that overlaps the old one works: a short move leaves one disc', () => {
  const image = composed(apply('move', { placement: { ...TO_THE_RIGHT, dxPx: 20, dyPx: 0 } }));
  expect(isRed(image, 90, 90)).toBe(true);
  expect(isRed(image, 54, 90)).toBe(false);
  expect(Math.abs(countRed(image) / countRed(PHOTO) - 1)).toBeLessThan(0.1);
});

test('closeness changes what a rebuilt place is made of', () => {
  const [loose, close] = [0, 100].map((closeness) => composed(apply('clear', { closeness }, 'fine pieces')));
  expect(differingPixels(loose!, close!, 2).length).toBeGreaterThan(100);
});

test('the takes of each kind of step differ from one another', () => {
  const frame = { rect: { x: 0, y: 0, width: WIDTH, height: HEIGHT + 80 } };
  const where = { placement: TO_THE_RIGHT, from: TO_THE_RIGHT, by: { dxPx: 60, dyPx: 0 }, frame };
  for (const { type, strategies } of KINDS.filter(({ strategies: ways }) => ways.length > 1)) {
    const [first, second] = strategies.slice(0, 2).map((name) => composed(apply(type, where, name)));
    expect(differingPixels(first!, second!, 2).length).toBeGreaterThan(50);
  }
});

test('what can’t be done is told: outside the picture, nothing marked, an unknown way of rebuilding', () => {
  expect(() => apply('move', { placement: { ...TO_THE_RIGHT, dxPx: 5000 } })).toThrow(/drag the subject back/);
  expect(() => apply('clear', { mark: EMPTY_MARK })).toThrow(/Nothing is marked/);
  expect(() => apply('clear', {}, 'by magic')).toThrow(/not a way of rebuilding/);
  expect(() => apply('clear', { donors: EMPTY_MARK })).toThrow(/donor area is empty/);
});

test('what is protected stays to the pixel, though it is marked', () => {
  const kept = maskOf(WIDTH, HEIGHT, (x, y) => (x - 70) ** 2 + (y - 90) ** 2 < 6 ** 2);
  const image = composed(apply('clear', { protect: markFromMask(kept) }));
  const changed = new Set(differingPixels(PHOTO, image));
  kept.data.forEach((value, i) => value && expect(changed.has(i)).toBe(false));
  expect(changed.size).toBeGreaterThan(500);
});

test('a cleared place tells where it came from and on which planes', () => {
  const { report } = apply('clear', { planes: [] });
  expect(report!.planes).toEqual([]);
  expect(report!.used.cells.some((cell) => cell === 1)).toBe(true);
  expect(report!.growthAdvisedPx).toBe(0);
});

test('Borrow covers the mark with the other place, pixel for pixel but for its tone, and nothing else', () => {
  const from = { dxPx: 112, dyPx: 0 };
  const image = composed(apply('borrow', { from, light: 0 }));
  expect(countRed(image)).toBe(0);
  expect(differingPixels(PHOTO, image).every((i) => marked.data[i]! > 0)).toBe(true);
  const at = 4 * (90 * WIDTH + 70);
  expect(Array.from(image.data.subarray(at, at + 3))).toEqual(
    Array.from(PHOTO.data.subarray(at + 4 * 112, at + 4 * 112 + 3)),
  );
});

test('Borrowing from half outside the picture rebuilds the rest; from wholly outside says where to drag', () => {
  const image = composed(apply('borrow', { from: { dxPx: -75, dyPx: 0 } }));
  expect(countRed(image)).toBe(0);
  expect(() => apply('borrow', { from: { dxPx: 5000, dyPx: 0 } })).toThrow(/drag somewhere else/);
});

test('Lengthen carries the end on and repeats what lies behind it in step', () => {
  // Upright posts every 20 px, ended by a red cap.
  const [width, height] = [260, 120];
  const grain = noise(4, 4);
  const fence = pictureOf(width, height, (x, y) => {
    const g = grain();
    if (y < 40 || y >= 80 || x >= 120) return [90 + g, 120 + g, 80 + g];
    if (x >= 112) return [200 + g, 40 + g, 40 + g];
    return x % 20 < 6 ? [220 + g, 210 + g, 190 + g] : [120 + g, 100 + g, 80 + g];
  });
  const end = [40, 34, 126, 34, 126, 86, 40, 86];
  const operation = wholeKind('lengthen');
  const params = operation.schema.parse({
    mark: { ...EMPTY_MARK, shapes: [{ kind: 'lasso', combine: 'startOver', points: end }] },
    by: { dxPx: 63, dyPx: 0 },
    take: { strategy: operation.strategies[0], seed: 1 },
  });
  const regions = operation.regions(params, fence).map((rect) => ({ rect, image: cropImage(fence, rect) }));
  const memo = new Map<string, unknown>();
  const result = drain(operation.apply({ params, photo: fence, regions, inputKey: 'fence', memo, kernels }));
  const image = { ...fence, data: fence.data.slice() };
  composePatches(image, { x: 0, y: 0 }, result.patches);
  const at = (x: number) => Array.from(image.data.subarray(4 * (60 * width + x), 4 * (60 * width + x) + 3));
  // The cap lies three posts further on: 63 px were asked for, 60 keep the posts in step.
  expect(at(176)[0]! - at(176)[1]!).toBeGreaterThan(80);
  for (let x = 42; x < 168; x++) {
    if (x % 20 < 2 || x % 20 > 18 || Math.abs((x % 20) - 6) < 2) continue;
    expect(at(x)[0]! > 165).toBe(x % 20 < 6);
  }
});

test('what stays in front of a placed subject is not covered by it', () => {
  const front = maskOf(WIDTH, HEIGHT, (x) => x > 180);
  const image = composed(apply('move', { placement: TO_THE_RIGHT, inFront: markFromMask(front) }));
  expect(isRed(image, 172, 100)).toBe(true);
  expect(isRed(image, 188, 100)).toBe(false);
});

const lasso = (...points: number[]): Mark => ({
  ...EMPTY_MARK,
  shapes: [{ kind: 'lasso', combine: 'startOver', points }],
});

test('a mark over the whole picture, and one without donors left, say what to do', () => {
  const everything = lasso(0, 0, WIDTH, 0, WIDTH, HEIGHT, 0, HEIGHT);
  expect(() => apply('clear', { mark: everything })).toThrow(/make the mark smaller/);
  const tiny = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => x === 200 && y === 20));
  expect(() => apply('clear', { donors: tiny })).toThrow(/larger donor area/);
});

test('a mark of one pixel changes at most that pixel', () => {
  const one = markFromMask(maskOf(WIDTH, HEIGHT, (x, y) => x === 200 && y === 50));
  const changed = differingPixels(PHOTO, composed(apply('clear', { mark: one })));
  expect(changed.every((i) => i === 50 * WIDTH + 200)).toBe(true);
});

test('a subject that touches the frame is cleared, and one dragged half outside is cut there', () => {
  const atEdge = lasso(0, 60, 110, 60, 110, 125, 0, 125);
  expect(countRed(composed(apply('clear', { mark: atEdge })))).toBe(0);
  const half = composed(apply('move', { placement: { ...TO_THE_RIGHT, dxPx: WIDTH - 70, dyPx: 0 } }));
  expect(isRed(half, WIDTH - 3, 90)).toBe(true);
  expect(countRed(half)).toBeGreaterThan(0.35 * countRed(PHOTO));
  expect(countRed(half)).toBeLessThan(0.65 * countRed(PHOTO));
});

test('two marks far apart are cleared in one step, and what lies between stays', () => {
  const both: Mark = {
    ...MARK,
    shapes: [...MARK.shapes, { ...lasso(220, 20, 240, 20, 240, 40, 220, 40).shapes[0]!, combine: 'also' }],
  };
  const image = composed(apply('clear', { mark: both }));
  expect(countRed(image)).toBe(0);
  const between = differingPixels(PHOTO, image).filter((i) => i % WIDTH > 105 && i % WIDTH < 215);
  expect(between).toEqual([]);
});

test('no kind of step changes what is protected, however faintly it was painted', () => {
  const kept = maskOf(WIDTH, HEIGHT, (x, y) => x >= 60 && x < 200 && y >= 84 && y < 96);
  for (let i = 0; i < kept.data.length; i++) if (kept.data[i]) kept.data[i] = 60;
  const protect = markFromMask(kept);
  const extras = {
    move: { placement: TO_THE_RIGHT },
    duplicate: { placement: TO_THE_RIGHT },
    borrow: { from: { dxPx: 112, dyPx: 0 } },
    lengthen: { by: { dxPx: 60, dyPx: 0 } },
  };
  for (const [type, extra] of Object.entries(extras)) {
    const changed = differingPixels(PHOTO, composed(apply(type, { ...extra, protect })));
    expect(changed.length).toBeGreaterThan(300);
    expect(changed.filter((i) => kept.data[i]! > 0)).toEqual([]);
  }
});

test('by the horizon a shadow that is moved along keeps its direction on the ground', () => {
  const isShadow = (x: number, y: number): boolean => y >= 104 && y < 152 && Math.abs(x - 70) < 7 && !isDisc(x, y);
  const grain = noise(4, 5);
  const photo = pictureOf(WIDTH, HEIGHT, (x, y) => {
    const value = (isDisc(x, y) ? 60 : isShadow(x, y) ? 90 : 170) + grain();
    return [isDisc(x, y) ? 200 : value, value, value];
  });
  const shadow = markFromMask(
    maskOf(WIDTH, HEIGHT, (x, y) => Math.abs(x - 70) < 12 && y >= 100 && y < 158 && !isDisc(x, y)),
  );
  const params = {
    mark: markFromMask(
      maskOf(
        WIDTH,
        HEIGHT,
        (x, y) => (x - 70) ** 2 + (y - 90) ** 2 < 26 ** 2 || (Math.abs(x - 70) < 12 && y >= 100 && y < 158),
      ),
    ),
    belongsNot: shadow,
    placement: { ...TO_THE_RIGHT, dxPx: 80, dyPx: 0 },
  };
  const operation = wholeKind('move');
  const move = (horizonPx?: number): RasterImage => {
    const take = { strategy: operation.strategies[0]!, seed: 1 };
    const parsed = operation.schema.parse({ ...params, take, ...(horizonPx !== undefined && { horizonPx }) });
    const regions = operation.regions(parsed, photo, photo).map((rect) => ({ rect, image: cropImage(photo, rect) }));
    const memo = new Map<string, unknown>();
    const out = { ...photo, data: photo.data.slice() };
    const made = operation.apply({ params: parsed, photo, before: photo, regions, inputKey: 'photo', memo, kernels });
    composePatches(out, { x: 0, y: 0 }, drain(made).patches);
    return out;
  };
  /** The middle of what is dark in a row. */
  const darkAt = (image: RasterImage, y: number): number => {
    const dark = Array.from({ length: WIDTH }, (_, x) => x).filter((x) => image.data[4 * (y * WIDTH + x) + 1]! < 125);
    return dark.reduce((sum, x) => sum + x, 0) / dark.length;
  };
  // The disc stands at 108, 98 below the horizon: what lies 138 below it moves so much farther.
  expect(Math.abs(darkAt(move(10), 148) - (70 + (80 * 138) / 98))).toBeLessThan(3);
  expect(Math.abs(darkAt(move(), 148) - 150)).toBeLessThan(2);
});
