import { createTwinKernels } from '../kernels/twinKernels.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { boundsOf, createMask, type Mask } from '../mask/mask.ts';
import type { Drawn } from '../fill/drawn.ts';
import { copySampled } from '../fill/sources.ts';
import type { Rect } from '../image/rect.ts';
import { linesMissedIn } from './missedLines.ts';
import { cropImage } from '../image/rasterImage.ts';
import { drawFound, drawLines, findOutlines, runOnLines, type Outlines } from './runOnLines.ts';
import type { RunOnLine } from './runOnLine.ts';
import { measureLines } from './stoppedLines.ts';

const WIDTH = 320;
const HEIGHT = 240;
const SAMPLES = 4;

/** A picture of what `levelAt` says of places, each pixel the mean of 16 of them, with a trifle of grain. */
function pictureOf(levelAt: (x: number, y: number) => number): RasterImage {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT);
  for (let i = 0, seed = 1; i < WIDTH * HEIGHT; i++) {
    let sum = 0;
    for (let k = 0; k < SAMPLES * SAMPLES; k++) {
      const x = (i % WIDTH) + ((k % SAMPLES) + 0.5) / SAMPLES;
      const y = Math.floor(i / WIDTH) + (Math.floor(k / SAMPLES) + 0.5) / SAMPLES;
      sum += levelAt(x, y);
    }
    seed = (seed * 1103515245 + 12345) % 2147483648;
    const level = sum / (SAMPLES * SAMPLES) + (seed / 2147483648 - 0.5) * 2;
    data.set([level, level, level, 255], 4 * i);
  }
  return { width: WIDTH, height: HEIGHT, data };
}

function disc(x: number, y: number, radius: number): Mask {
  const mask = createMask(WIDTH, HEIGHT);
  for (let i = 0; i < mask.data.length; i++) {
    if (((i % WIDTH) + 0.5 - x) ** 2 + (Math.floor(i / WIDTH) + 0.5 - y) ** 2 < radius * radius) mask.data[i] = 255;
  }
  return mask;
}

/** A picture in which the hole is magenta, and the outlines around it. */
function holed(picture: RasterImage, hole: Mask): { image: RasterImage; outlines: Outlines } {
  const data = picture.data.slice();
  for (let i = 0; i < hole.data.length; i++) if (hole.data[i]) data.set([255, 0, 255, 255], 4 * i);
  const image = { ...picture, data };
  return { image, outlines: findOutlines(image, hole.data, boundsOf(hole), createTwinKernels()) };
}

/** What is drawn of it by itself. */
function drawnIn(picture: RasterImage, hole: Mask): Drawn | undefined {
  const { image, outlines } = holed(picture, hole);
  return drawFound(outlines, image, hole.data, boundsOf(hole));
}

/** What is drawn of it along lines that are set. */
function drawnAlong(lines: RunOnLine[], picture: RasterImage, hole: Mask): Drawn | undefined {
  const { image, outlines } = holed(picture, hole);
  return drawLines(lines, outlines, image, hole.data, boundsOf(hole));
}

/** Mean difference of what is drawn from the truth, in levels. */
function errorOf({ sources, pixelsOf }: Drawn, truth: RasterImage): number {
  const colour = new Float32Array(3);
  let [sum, count] = [0, 0];
  for (let i = 0; i < pixelsOf.length; i++) {
    if (!pixelsOf[i]) continue;
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    expect(sources.sample(sources.groupAt(x, y), x, y, colour)).toBe(true);
    sum += Math.abs(colour[1]! - truth.data[4 * i + 1]!);
    count++;
  }
  return sum / count;
}

const isDrawn = ({ pixelsOf }: Drawn, x: number, y: number): boolean =>
  pixelsOf[Math.floor(y) * WIDTH + Math.floor(x)]! > 0;

/** How far (x, y) lies to one side of a slanted line through the middle. */
const across = (x: number, y: number): number => (x - 160) * -0.35 + (y - 120) * Math.sqrt(1 - 0.35 ** 2);

test('a bar on both sides of a hole is drawn through it where it belongs, within a few tenths of a pixel', () => {
  const bar = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 ? 60 : 170));
  const drawn = drawnIn(bar, disc(160, 120, 50))!;
  expect(isDrawn(drawn, 160, 120)).toBe(true);
  // An edge of 110 levels that lies .3 px off is off by 33 levels on the pixels that it crosses, some two in fifteen.
  expect(errorOf(drawn, bar)).toBeLessThan(4);
  const colour = new Float32Array(3);
  let widthPx = 0;
  for (let y = 105; y < 136; y++) {
    if (drawn.sources.sample(drawn.sources.groupAt(160, y), 160, y, colour)) widthPx += (170 - colour[1]!) / 110;
  }
  expect(Math.abs(widthPx - 10 / Math.sqrt(1 - 0.35 ** 2))).toBeLessThan(0.6);
});

test('an arc is drawn on as an arc', () => {
  const arc = pictureOf((x, y) => (Math.hypot(x - 160, y - 260) < 150 ? 70 : 160));
  const drawn = drawnIn(arc, disc(160, 112, 40))!;
  expect(isDrawn(drawn, 160, 110)).toBe(true);
  // Straight from rim to rim it would run more than five px lower in the middle.
  expect(errorOf(drawn, arc)).toBeLessThan(5);
});

test('a bar that ends inside the hole is not drawn, for nothing tells how far it reaches', () => {
  const bar = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 && x < 165 ? 60 : 170));
  const drawn = drawnIn(bar, disc(160, 120, 50));
  expect(drawn === undefined || !isDrawn(drawn, 180, 127)).toBe(true);
});

test('even ground has nothing that runs on', () => {
  expect(
    drawnIn(
      pictureOf(() => 128),
      disc(160, 120, 50),
    ),
  ).toBeUndefined();
});

test('of two bars that cross, each is drawn up to the other', () => {
  const other = (x: number, y: number): number => (x - 160) * 0.8 + (y - 120) * 0.6;
  const bars = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 || Math.abs(other(x, y)) < 5 ? 60 : 170));
  const drawn = drawnIn(bars, disc(160, 120, 50))!;
  for (const along of [-30, -15, 15, 30]) {
    const slant = Math.sqrt(1 - 0.35 ** 2);
    expect(isDrawn(drawn, 160 + along * slant, 120 + along * 0.35)).toBe(true);
    expect(isDrawn(drawn, 160 + along * 0.6, 120 - along * 0.8)).toBe(true);
  }
  expect(errorOf(drawn, bars)).toBeLessThan(8);
});

const BAR = pictureOf((x, y) => (Math.abs(across(x, y)) < 5 ? 60 : 170));
const HOLE = disc(160, 120, 50);
const SLANT = Math.sqrt(1 - 0.35 ** 2);
/** On the bar's middle, so many px from the picture's. */
const onBar = (along: number): { x: number; y: number } => ({ x: 160 + along * SLANT, y: 120 + along * 0.35 });

test('the line that is found is the bar: through its middle, as wide', () => {
  const [line, ...others] = runOnLines(holed(BAR, HOLE).outlines);
  expect(others).toEqual([]);
  for (const { x, y } of line!.points) expect(Math.abs(across(x, y))).toBeLessThan(0.5);
  for (const width of line!.widths) expect(Math.abs(width - 10)).toBeLessThan(0.7);
});

test('a line that is set where one was found is drawn as that was', () => {
  const lines = runOnLines(holed(BAR, HOLE).outlines);
  const drawn = drawnAlong(lines, BAR, HOLE)!;
  expect(isDrawn(drawn, 160, 120)).toBe(true);
  expect(errorOf(drawn, BAR)).toBeLessThan(4);
});

test('a line that is set roughly is led by what is seen at its ends', () => {
  const drawn = drawnAlong(
    [
      {
        points: [
          { x: 108, y: 103 },
          { x: 212, y: 137 },
        ],
        widths: [9, 11],
      },
    ],
    BAR,
    HOLE,
  )!;
  expect(errorOf(drawn, BAR)).toBeLessThan(5);
});

test('a line that ends inside the hole is drawn up to there, from either way round', () => {
  const toEnd: RunOnLine = { points: [onBar(-55), onBar(10)], widths: [10, 10] };
  const back: RunOnLine = { points: toEnd.points.toReversed(), widths: [10, 10] };
  for (const line of [toEnd, back]) {
    const drawn = drawnAlong([line], BAR, HOLE)!;
    const at = (along: number): boolean => isDrawn(drawn, onBar(along).x, onBar(along).y);
    expect([-40, -10, 6].map(at)).toEqual([true, true, true]);
    expect([16, 40].map(at)).toEqual([false, false]);
    expect(errorOf(drawn, BAR)).toBeLessThan(4);
  }
});

test('a line that is bent takes the bar along its bend', () => {
  const low = { x: onBar(0).x - 15 * 0.35, y: onBar(0).y + 15 * SLANT };
  const drawn = drawnAlong([{ points: [onBar(-52), low, onBar(52)], widths: [10, 10] }], BAR, HOLE)!;
  const colour = new Float32Array(3);
  drawn.sources.sample(
    drawn.sources.groupAt(Math.floor(low.x), Math.floor(low.y)),
    Math.floor(low.x),
    Math.floor(low.y),
    colour,
  );
  expect(Math.abs(colour[1]! - 60)).toBeLessThan(4);
  expect(isDrawn(drawn, onBar(0).x, onBar(0).y - 2)).toBe(false);
});

test('a line that touches nothing known, or does not come into the hole, draws nothing', () => {
  expect(drawnAlong([{ points: [onBar(-20), onBar(20)], widths: [10, 10] }], BAR, HOLE)).toBeUndefined();
  expect(
    drawnAlong(
      [
        {
          points: [
            { x: 20, y: 20 },
            { x: 300, y: 20 },
          ],
          widths: [10, 10],
        },
      ],
      BAR,
      HOLE,
    ),
  ).toBeUndefined();
});

test('a bar that stops at the rim, steps aside or bends counts against what was rebuilt', () => {
  const { image, outlines } = holed(BAR, HOLE);
  const box = boundsOf(HOLE);
  const errorWith = (rebuilt: RasterImage): number =>
    measureLines(image, box, cropImage(rebuilt, box), outlines).lineError;
  const truth = errorWith(BAR);
  expect(truth).toBeLessThan(0.05);
  const none = errorWith(pictureOf(() => 170));
  const aside = errorWith(pictureOf((x, y) => (Math.abs(across(x, y) - 6) < 5 ? 60 : 170)));
  const bent = errorWith(
    pictureOf((x, y) => (Math.abs(across(x, y) - (0.02 * (Math.abs(x - 160) - 50) ** 2) / 5) < 5 ? 60 : 170)),
  );
  for (const wrong of [none, aside, bent]) expect(wrong).toBeGreaterThan(truth + 0.15);
});

/** A hole in which a picture is drawn just as it is. */
const drawnAs = ({ data }: RasterImage, hole: Mask): Drawn => {
  const sample = (_: number, x: number, y: number, out: Float32Array): boolean => {
    for (let c = 0; c < 3; c++) out[c] = data[4 * (y * WIDTH + x) + c]!;
    return true;
  };
  const groupAt = (): number => 1;
  const sources = {
    largestBlock: 1,
    groupAt,
    sample,
    sourceOf: (x: number, y: number) => ({ x, y }),
    copy: (part: Uint8Array, box: Rect, out: Uint8ClampedArray) => copySampled(sample, groupAt, WIDTH, part, box, out),
  };
  const pixelsOf = Uint8Array.from(hole.data);
  return {
    pixelsOf,
    pixels: pixelsOf.filter((value) => value > 0).length,
    box: boundsOf(hole),
    sources,
    isThing: false,
  };
};

test('a bar is missed where what is drawn does not show it, whichever side is dark it is seen where it does', () => {
  const { image, outlines } = holed(BAR, HOLE);
  const missedIn = (picture: RasterImage): number =>
    linesMissedIn(drawnAs(picture, HOLE), outlines, image, boundsOf(HOLE)).joins.length;
  expect(missedIn(pictureOf(() => 170))).toBe(outlines.joins.length);
  expect(missedIn(BAR)).toBe(0);
  expect(missedIn(pictureOf((x, y) => (Math.abs(across(x, y)) < 5 ? 170 : 60)))).toBe(0);
});
