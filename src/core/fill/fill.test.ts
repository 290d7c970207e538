import { kernels } from '../../../tests/support/kernels.ts';
import { differingPixels, maskOf, noise, pictureOf } from '../../../tests/support/pictures.ts';
import { cropImage, pasteImage, type RasterImage } from '../image/rasterImage.ts';
import { createMask, type Mask } from '../mask/mask.ts';
import { createRandom } from '../numeric/random.ts';
import { drain, type Progress } from '../progress.ts';
import type { PlaneCorners } from '../planes/findPlanes.ts';
import { applyHomography, invertHomography, squareToQuad } from '../geometry/homography.ts';
import { fillRegion, type FillInput } from './fill.ts';
import type { Learned } from './learned.ts';
import { inLight } from './mixIntoPhoto.ts';
import { rankOf } from './rank.ts';
import { FILL_STRATEGIES } from './strategy.ts';

const SIZE = 160;
const MARK = maskOf(SIZE, SIZE, (x, y) => (x - 80) ** 2 + (y - 76) ** 2 < 24 * 24);

function boards(): RasterImage {
  const grain = noise(4, 6);
  return pictureOf(SIZE, SIZE, (_, y) => {
    const value = (y % 16 < 2 ? 40 : 170) + grain();
    return [value, value * 0.9, value * 0.7];
  });
}

/** A jetty of boards of many widths, seen along it from a camera that is not quite level. */
const JETTY: PlaneCorners = {
  corners: [
    { x: 55, y: 22 },
    { x: 105, y: 18 },
    { x: 230, y: 150 },
    { x: -70, y: 158 },
  ],
};

function jetty(): RasterImage {
  const toUnit = invertHomography(squareToQuad(JETTY.corners));
  const random = createRandom(3);
  const ends = [0];
  while (ends.at(-1)! < 1) ends.push(ends.at(-1)! + 0.012 + random.below(100) / 4000);
  const tones = ends.map(() => 160 + random.below(20));
  const grain = noise(8, 6);
  return pictureOf(SIZE, SIZE, (x, y) => {
    const { x: u, y: v } = applyHomography(toUnit, x + 0.5, y + 0.5);
    if (u < 0 || u >= 1 || v < 0 || v >= 1) return [30, 60, 120];
    const board = ends.findLastIndex((end) => end <= v);
    const value = (v - ends[board]! < 0.008 ? 40 : tones[board]!) + grain();
    return [value, value * 0.9, value * 0.7];
  });
}

function withObject(image: RasterImage, mark: Mask): RasterImage {
  const out = { ...image, data: image.data.slice() };
  for (let i = 0; i < mark.data.length; i++) if (mark.data[i]) out.data.set([255, 0, 255], 4 * i);
  return out;
}

const run = (change: Partial<FillInput> & Pick<FillInput, 'image'>) =>
  drain(fillRegion({ mark: MARK, strategy: FILL_STRATEGIES[0]!, seed: 1, ...change }, kernels));

function whole(image: RasterImage, result: ReturnType<typeof run>): RasterImage {
  const out = { ...image, data: image.data.slice() };
  pasteImage(out, result.box, result.image);
  return out;
}

/** Mean absolute error, in levels, over the mark. */
function errorInside(a: RasterImage, b: RasterImage, mark = MARK): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < mark.data.length; i++) {
    if (!mark.data[i]) continue;
    for (let c = 4 * i; c < 4 * i + 3; c++) sum += Math.abs(a.data[c]! - b.data[c]!) / 3;
    count++;
  }
  return sum / count;
}

test('along planes each of many boards runs on at its own width, near and far', () => {
  const truth = jetty();
  const mark = maskOf(SIZE, SIZE, (x, y) => Math.abs(x - 80) < 8 + y / 12 && y >= 34 && y < 130);
  const image = withObject(truth, mark);
  const strategy = FILL_STRATEGIES.find(({ name }) => name === 'along planes')!;
  const filled = whole(truth, run({ image, mark, strategy, planes: [JETTY] }));
  const flat = pictureOf(SIZE, SIZE, () => [158, 142, 110]);
  expect(errorInside(filled, truth, mark)).toBeLessThan(errorInside(flat, truth, mark) / 5);
});

/** Courses of bricks seen square on, and before them a pipe that stands where the wall ends. */
function wallWithPipe(side: number): { image: RasterImage; wall: PlaneCorners; isPipe: (x: number) => boolean } {
  const random = createRandom(5);
  const tones = Array.from({ length: 4000 }, () => random.below(110));
  const grain = noise(6, 8);
  const isPipe = (x: number): boolean => Math.abs(x - 0.6 * side) < 0.02 * side;
  const end = 0.88 * side;
  const image = pictureOf(side, side, (x, y) => {
    if (y >= end) return [110 + grain(), 112 + grain(), 115 + grain()];
    if (isPipe(x)) return [40 + grain(), 45 + grain(), 50 + grain()];
    const course = Math.floor(y / 16);
    const along = x + (course % 2) * 12;
    const isJoint = y % 16 < 3 || along % 24 < 3;
    const tone = isJoint ? 200 : 85 + tones[course * 40 + Math.floor(along / 24)]!;
    return [tone + grain(), 0.75 * tone + grain(), 0.6 * tone + grain()];
  });
  const corners: PlaneCorners['corners'] = [
    { x: 0, y: 0 },
    { x: side, y: 0 },
    { x: side, y: end },
    { x: 0, y: end },
  ];
  return { image, wall: { corners }, isPipe };
}

test('along a wall’s courses a pipe before them goes on down to the ground', () => {
  const side = 560;
  const { image, wall, isPipe } = wallWithPipe(side);
  const mark = maskOf(side, side, (x, y) => x > 150 && x < 530 && y > 360 && y < 530);
  const strategy = FILL_STRATEGIES.find(({ name }) => name === 'along planes')!;
  const filled = whole(image, run({ image: withObject(image, mark), mark, strategy, planes: [wall] }));
  let [kept, all] = [0, 0];
  for (let y = 365; y < 485; y++) {
    for (let x = 150; x < 530; x++) {
      if (!isPipe(x)) continue;
      all++;
      if (filled.data[4 * (y * side + x)]! < 65) kept++;
    }
  }
  expect(kept / all).toBeGreaterThan(0.85);
});

test.each(FILL_STRATEGIES)(
  'boards run on through the hole ($name), far closer to the truth than a flat fill',
  (strategy) => {
    const truth = boards();
    const filled = whole(truth, run({ image: withObject(truth, MARK), strategy }));
    const flat = pictureOf(SIZE, SIZE, () => [154, 138, 108]);
    // What is left is the grain (two independent ones of +-6 levels differ by 4 on average).
    expect(errorInside(filled, truth)).toBeLessThan(errorInside(flat, truth) / 4);
  },
);

test('outside the mark not one pixel changes, and nothing of the object is left inside', () => {
  const image = withObject(boards(), MARK);
  const filled = whole(image, run({ image }));
  expect(differingPixels(image, filled).every((pixel) => MARK.data[pixel]! > 0)).toBe(true);
  for (let i = 0; i < MARK.data.length; i++) {
    if (MARK.data[i]) expect(filled.data[4 * i + 1]!).toBeGreaterThan(filled.data[4 * i + 2]! - 20);
  }
});

test('a partial mark mixes: at half strength every channel lies halfway', () => {
  const image = withObject(boards(), MARK);
  const half = { ...MARK, data: MARK.data.map((value) => (value ? 128 : 0)) };
  const full = whole(image, run({ image }));
  const mixed = whole(image, run({ image, mark: half }));
  for (let i = 0; i < MARK.data.length; i++) {
    if (!MARK.data[i]) continue;
    const expected = (full.data[4 * i]! * 128 + image.data[4 * i]! * 127) / 255;
    expect(Math.abs(mixed.data[4 * i]! - expected)).toBeLessThanOrEqual(1);
  }
});

test('pixels come from the donors and from nowhere else', () => {
  // Left half blue, right half green; donors only on the green side.
  const image = pictureOf(SIZE, SIZE, (x) => (x < 80 ? [20, 20, 200] : [20, 200, 20]));
  const donors = maskOf(SIZE, SIZE, (x) => x >= 110);
  const result = run({ image, donors });
  const filled = whole(image, { ...result, image: result.inOwnLight });
  for (let i = 0; i < MARK.data.length; i++) {
    if (MARK.data[i]) expect(Array.from(filled.data.subarray(4 * i, 4 * i + 3))).toEqual([20, 200, 20]);
  }
});

test('with the place’s tone a slow gradient has no step at the rim', () => {
  const image = pictureOf(SIZE, SIZE, (x, y) => [60 + x * 0.6, 90 + y * 0.4, 120]);
  const filled = whole(image, run({ image: withObject(image, MARK) }));
  for (let y = 40; y < 120; y++) {
    for (let x = 40; x < 120; x++) {
      const i = y * SIZE + x;
      if (!!MARK.data[i] === !!MARK.data[i + 1]) continue;
      expect(Math.abs(filled.data[4 * i]! - filled.data[4 * i + 4]!)).toBeLessThanOrEqual(4);
    }
  }
});

test('same input and seed give the same pixels, another seed gives others', () => {
  const grain = noise(9, 60);
  const image = pictureOf(SIZE, SIZE, () => [128 + grain(), 128 + grain(), 128 + grain()]);
  const first = run({ image });
  expect(run({ image }).image.data).toEqual(first.image.data);
  expect(run({ image, seed: 2 }).image.data).not.toEqual(first.image.data);
});

test('a mark at the picture’s corner is filled, too', () => {
  const image = boards();
  const corner = maskOf(SIZE, SIZE, (x, y) => x < 30 && y < 26);
  const filled = whole(image, run({ image: withObject(image, corner), mark: corner }));
  expect(errorInside(filled, image, corner)).toBeLessThan(12);
});

test('progress grows to its end and a coarse preview of the hole comes before the result', () => {
  const image = withObject(boards(), MARK);
  const reports: Progress[] = [];
  drain(
    fillRegion({ image, mark: MARK, strategy: FILL_STRATEGIES[0]!, seed: 1 }, kernels),
    (progress) => void reports.push(progress),
  );
  const shares = reports.map((report) => report.share);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  const preview = reports.find((report) => report.preview)!.preview!;
  expect(preview.rect.x).toBeLessThanOrEqual(57);
  expect(preview.rect.x + preview.rect.width).toBeGreaterThanOrEqual(104);
});

/** A disc near one corner of a wide picture, and one near the opposite corner. */
const WIDE = { width: 480, height: 200 };
const TWO_DISCS = maskOf(WIDE.width, WIDE.height, (x, y) =>
  [
    [50, 50],
    [430, 150],
  ].some(([u, v]) => (x - u!) ** 2 + (y - v!) ** 2 < 20 ** 2),
);

test('two places far apart are each rebuilt from around themselves, without a trace of the other', () => {
  const truth = pictureOf(WIDE.width, WIDE.height, (x, y) => (x < 240 ? [90, 60, 40] : [60, 90 + (y % 4), 160]));
  const result = run({ image: withObject(truth, TWO_DISCS), mark: TWO_DISCS });
  expect(result.box).toEqual({ x: 31, y: 31, width: 419, height: 139 });
  expect(errorInside(whole(truth, result), truth, TWO_DISCS)).toBeLessThan(2);
  // Three times a disc's width around it lies what may be copied.
  const { side, width, cells } = result.used;
  const columns = [...cells.keys()].filter((i) => cells[i]).map((i) => side * (i % width));
  expect(columns.every((x) => x < 170 || x > 310)).toBe(true);
  expect(columns.some((x) => x < 170) && columns.some((x) => x > 310)).toBe(true);
});

test('donors drawn far away serve all places of a mark', () => {
  const truth = pictureOf(WIDE.width, WIDE.height, (x) => (x >= 220 && x < 260 ? [200, 30, 30] : [60, 90, 160]));
  const donors = maskOf(WIDE.width, WIDE.height, (x) => x >= 222 && x < 258);
  const result = run({ image: truth, mark: TWO_DISCS, donors });
  const [red, , blue] = inLight(result, 0).data.subarray(4 * (19 * result.box.width + 19));
  expect([red, blue]).toEqual([200, 30]);
});

test('a place with nothing but transparency around it is rebuilt from farther away', () => {
  const truth = pictureOf(WIDE.width, WIDE.height, (_, y) => [60, 90 + (y % 4), 160]);
  const image = withObject(truth, TWO_DISCS);
  for (let i = 0; i < WIDE.width * WIDE.height; i++) if (i % WIDE.width < 240) image.data[4 * i + 3] = 0;
  const filled = whole(truth, run({ image, mark: TWO_DISCS }));
  expect(errorInside(filled, truth, TWO_DISCS)).toBeLessThan(4);
});

test('new pixels come from near the mark, unless there is too little to choose from', () => {
  const grain = noise(4, 6);
  const truth = pictureOf(600, 400, (_, y) => [60, 90 + (y % 4) + grain(), 160]);
  const mark = maskOf(600, 400, (x, y) => (x - 300) ** 2 + (y - 200) ** 2 < 40 ** 2);
  const farthestUsed = (image: RasterImage, strategy = FILL_STRATEGIES[0]!): number => {
    const { side, width, cells } = run({ image, mark, strategy }).used;
    const columns = [...cells.keys()].filter((i) => cells[i]).map((i) => side * ((i % width) + 0.5));
    return Math.max(...columns.map((x) => Math.abs(x - 300)));
  };
  const image = withObject(truth, mark);
  expect(farthestUsed(image)).toBeLessThan(40 + 96 + 10);
  expect(farthestUsed(image, { ...FILL_STRATEGIES[0]!, looks: 'far' })).toBeGreaterThan(40 + 96 + 10);
  // But for a narrow strip all that is near is transparent.
  for (let i = 0; i < 600 * 400; i++) {
    const [x, y] = [i % 600, Math.floor(i / 600)];
    if (Math.max(Math.abs(x - 300), Math.abs(y - 200)) < 140 && y < 310) image.data[4 * i + 3] = 0;
  }
  expect(farthestUsed(image)).toBeGreaterThan(140);
});

test('a cable before a slow gradient goes without a step where its pieces meet', () => {
  const truth = pictureOf(900, 240, (x, y) => [60 + x / 8, 80 + x / 10, 200 - y / 4]);
  const cable = maskOf(900, 240, (x, y) => Math.abs(y - 60 - x / 9) < 5);
  const filled = whole(truth, run({ image: withObject(truth, cable), mark: cable }));
  expect(differingPixels(filled, truth, 3)).toEqual([]);
});

test('along a gap at the picture’s edge the tone goes on from piece to piece', () => {
  const [width, height] = [1200, 260];
  const grain = noise(3, 2);
  const truth = pictureOf(width, height, (x, y) => {
    const tone = 120 + 60 * Math.sin(x / 90) + y / 4 + grain();
    return [tone, tone, tone];
  });
  const gap = maskOf(width, height, (_, y) => y < 50);
  const filled = whole(truth, run({ image: withObject(truth, gap), mark: gap }));
  const means = Array.from({ length: width }, (_, x) => {
    let sum = 0;
    for (let y = 0; y < 20; y++) sum += filled.data[4 * (y * width + x)]!;
    return sum / 20;
  });
  const steps = means.slice(1).map((mean, x) => Math.abs(mean - means[x]!));
  expect(Math.max(...steps)).toBeLessThan(3);
});

test('previews of several places are shown together, those done before beside the one under way', () => {
  const image = withObject(
    pictureOf(WIDE.width, WIDE.height, () => [90, 120, 60]),
    TWO_DISCS,
  );
  const previews: Progress[] = [];
  drain(
    fillRegion({ image, mark: TWO_DISCS, strategy: FILL_STRATEGIES[0]!, seed: 1 }, kernels),
    (progress) => void (progress.preview && previews.push(progress)),
  );
  const shownAt = ({ preview }: Progress, x: number, y: number): boolean => {
    const { rect, image: shown } = preview!;
    const column = Math.floor(((x - rect.x) * shown.width) / rect.width);
    const row = Math.floor(((y - rect.y) * shown.height) / rect.height);
    return shown.data[4 * (row * shown.width + column) + 3] === 255;
  };
  expect([shownAt(previews[0]!, 50, 50), shownAt(previews[0]!, 430, 150)]).toEqual([true, false]);
  expect([shownAt(previews.at(-1)!, 50, 50), shownAt(previews.at(-1)!, 430, 150)]).toEqual([true, true]);
});

test('an empty mark and a picture without donors are refused with what to do', () => {
  const image = boards();
  expect(() => run({ image, mark: createMask(SIZE, SIZE) })).toThrow(/Nothing is marked/);
  expect(() => run({ image, mark: createMask(SIZE, SIZE, 255) })).toThrow(/make the mark smaller/);
  expect(() => run({ image: cropImage(image, { x: 0, y: 0, width: 9, height: 9 }) })).toThrow(/9 x 9|160 x 160/);
});

test('a linear ramp across the seams closes exactly, though no donor has its tone', () => {
  // Every donor differs from the place by a constant step; the correction takes it away to the level.
  const ramp = pictureOf(SIZE, SIZE, (x) => [40 + x, 40 + x, 40 + x]);
  const filled = whole(ramp, run({ image: withObject(ramp, MARK) }));
  expect(errorInside(filled, ramp)).toBeLessThan(1);
});

test.each([
  ['much darker', [190, 50, 40]],
  ['as light, but of another hue', [190, 136, 105]],
] as const)('a thing that touches the mark does not colour the plain ground rebuilt beside it: %s', (_, thing) => {
  const image = pictureOf(SIZE, SIZE, (x, y) => (x >= 104 && y > 60 && y < 92 ? [...thing] : [150, 150, 150]));
  const donors = maskOf(SIZE, SIZE, (x) => x < 100);
  const { data } = whole(image, run({ image, donors }));
  const most = MARK.data.reduce((max, marked, i) => (marked ? Math.max(max, data[4 * i]! - data[4 * i + 1]!) : max), 0);
  expect(most).toBeLessThan(6);
});

test('a thin rim of a thing that the mark left outside does not tint the plain ground rebuilt beside it', () => {
  const isLeft = (x: number, y: number): boolean => {
    const distance = Math.hypot(x - 80, y - 76);
    return distance >= 24 && distance < 28 && x < 76 && y < 80;
  };
  const image = pictureOf(SIZE, SIZE, (x, y) => (isLeft(x, y) ? [205, 190, 170] : [210, 206, 200]));
  const donors = maskOf(SIZE, SIZE, (x) => x > 108);
  const { data } = whole(image, run({ image, donors }));
  // The ground's red is above its blue by 10.
  const most = MARK.data.reduce((max, marked, i) => (marked ? Math.max(max, data[4 * i]! - data[4 * i + 2]!) : max), 0);
  expect(most).toBeLessThan(15);
});

test('light mixes between the pixels’ own and the place’s, step by step', () => {
  const image = pictureOf(SIZE, SIZE, (x) => [60 + x, 90 + x / 2, 120]);
  const result = run({ image: withObject(image, MARK) });
  const tones = [0, 0.25, 0.5, 0.75, 1].map((light) => inLight(result, light).data);
  expect(tones[0]).toEqual(result.inOwnLight.data);
  expect(tones[4]).toEqual(result.image.data);
  const distance = (data: Uint8ClampedArray): number =>
    data.reduce((sum, value, i) => sum + Math.abs(value - result.image.data[i]!), 0);
  const distances = tones.map(distance);
  expect(distances).toEqual([...distances].sort((a, b) => b - a));
  expect(distances[0]).toBeGreaterThan(distances[4]! + 1000);
});

test('where new pixels came from is told, and is never the hole', () => {
  const image = withObject(boards(), MARK);
  const { used } = run({ image });
  expect(used.cells.some((cell) => cell === 1)).toBe(true);
  used.cells.forEach((cell, k) => {
    if (!cell) return;
    const x = ((k % used.width) + 0.5) * used.side;
    const y = (Math.floor(k / used.width) + 0.5) * used.side;
    // A cell at the rim may hold both; its middle is never deep inside.
    expect((x - 80) ** 2 + (y - 76) ** 2).toBeGreaterThan((24 - used.side) ** 2);
  });
});

test('a mark with next to nothing around it is said to be so', () => {
  const image = boards();
  const wide = maskOf(SIZE, SIZE, (x) => x > 34);
  expect(run({ image, mark: wide }).poorSurroundings).toBe(true);
  expect(run({ image }).poorSurroundings).toBe(false);
});

test('tiles in perspective run on along a plane that is given, better than without it', () => {
  const corners: PlaneCorners['corners'] = [
    { x: 50, y: 10 },
    { x: 110, y: 10 },
    { x: 190, y: 156 },
    { x: -30, y: 156 },
  ];
  const toPlane = invertHomography(squareToQuad(corners));
  const tiles = pictureOf(SIZE, SIZE, (x, y) => {
    const { x: u, y: v } = applyHomography(toPlane, x + 0.5, y + 0.5);
    const value = (u * 12 + 9) % 1 < 0.15 || (v * 12 + 9) % 1 < 0.15 ? 60 : 170;
    return [value, value, value];
  });
  const image = withObject(tiles, MARK);
  const made = run({ image, planes: [{ corners }] });
  const along = errorInside(whole(image, made), tiles);
  const without = errorInside(whole(image, run({ image, planes: [] })), tiles);
  expect(along).toBeLessThan(without);
  // What the measures don't see is in its favour.
  expect(made.rank).toBeLessThan(rankOf(made.measures, 0, false));
});

test('a shadow that the mark only touches does not grow over a plane, unless donors are chosen by hand', () => {
  const next = noise(5, 30);
  const inShade = (x: number, y: number): boolean => x < 64 && y > 50 && y < 66;
  const ground = pictureOf(SIZE, SIZE, (x, y) => {
    const value = (150 + next()) * (inShade(x, y) ? 0.3 : 1);
    return [value, value * 0.95, value * 0.85];
  });
  const corners: PlaneCorners['corners'] = [
    { x: 20, y: 0 },
    { x: 140, y: 0 },
    { x: SIZE, y: SIZE },
    { x: 0, y: SIZE },
  ];
  const shadedShare = (donors?: Mask): number => {
    const image = withObject(ground, MARK);
    const { inOwnLight, box } = run({ image, planes: [{ corners }], ...(donors && { donors }) });
    let count = 0;
    for (let i = 0; i < box.width * box.height; i++) {
      const [x, y] = [(i % box.width) + box.x, Math.floor(i / box.width) + box.y];
      if (MARK.data[y * SIZE + x] && inOwnLight.data[4 * i]! < 80) count++;
    }
    return count / MARK.data.filter((m) => m > 0).length;
  };
  const everywhere = maskOf(SIZE, SIZE, () => true);
  expect(shadedShare()).toBeLessThan(0.8 * shadedShare(everywhere));
});

test('what is left beside a plane is rebuilt from its own side of the edge of two materials', () => {
  const next = noise(8, 40);
  // Blue tells the materials apart, and hardly counts beside the grain.
  const picture = pictureOf(SIZE, SIZE, (_, y) => [120 + next(), 110 + next(), y < 80 ? 80 : 82]);
  const corners: PlaneCorners['corners'] = [
    { x: 0, y: 0 },
    { x: SIZE, y: 0 },
    { x: SIZE, y: 80 },
    { x: 0, y: 80 },
  ];
  const mark = maskOf(SIZE, SIZE, (x, y) => Math.abs(x - 80) < 24 && Math.abs(y - 80) < 24);
  // Height alone must not keep the materials apart.
  const strategy = { ...FILL_STRATEGIES[0]!, heightWeight: 0 };
  const foreignBelow = (plane: PlaneCorners): number => {
    const { inOwnLight, box } = run({ image: picture, mark, planes: [plane], strategy });
    let count = 0;
    for (let i = 0; i < box.width * box.height; i++) {
      if (Math.floor(i / box.width) + box.y >= 80 && inOwnLight.data[4 * i + 2]! < 81) count++;
    }
    return count;
  };
  expect(foreignBelow({ corners, edge: [0, -1, 80] })).toBe(0);
  expect(foreignBelow({ corners })).toBeGreaterThan(500);
});

test('planes are looked for between known places, not past the edge of the picture', () => {
  const [width, height] = [480, 360];
  const corners: PlaneCorners['corners'] = [
    { x: 130, y: 20 },
    { x: 330, y: 35 },
    { x: 560, y: 350 },
    { x: -60, y: 335 },
  ];
  const toPlane = invertHomography(squareToQuad(corners));
  const image = pictureOf(width, height, (x, y) => {
    const { x: u, y: v } = applyHomography(toPlane, x + 0.5, y + 0.5);
    const value = (u * 10 + 9) % 1 < 0.12 || (v * 8 + 8) % 1 < 0.12 ? 60 : 170;
    return [value, value, value];
  });
  const strategy = FILL_STRATEGIES.find(({ planes }) => planes)!;
  const planesIn = (mark: Mask) => run({ image, mark, strategy }).planes.length;
  expect(planesIn(maskOf(width, height, (x, y) => Math.abs(x - 230) < 40 && Math.abs(y - 170) < 36))).toBe(1);
  expect(planesIn(maskOf(width, height, (x) => x >= width - 90))).toBe(0);
});

test('what one take has learned of a mark serves the next', () => {
  const strategy = FILL_STRATEGIES.find(({ planes }) => planes)!;
  const learned: Learned = {};
  const image = boards();
  const first = run({ image, strategy, learned });
  expect(learned).toMatchObject({ planes: first.planes, growthAdvised: first.growthAdvised });
  const second = run({ image, strategy, learned: { planes: [], growthAdvised: 7 } });
  expect(second.growthAdvised).toBe(7);
});

test('past the edge of a picture, what is rebuilt comes from about its own height', () => {
  const [width, height] = [240, 180];
  const next = noise(5, 40);
  // Blue tells the row a pixel was copied from, and hardly counts beside the grain.
  const picture = pictureOf(width, height, (_, y) => [120 + next(), 110 + next(), 80 + y / 4]);
  const strategy = { ...FILL_STRATEGIES[0]!, heightWeight: 0 };
  const rowsAway = (left: number): number => {
    const mark = maskOf(width, height, (x) => x >= left && x < left + 48);
    const { inOwnLight, box } = drain(fillRegion({ image: picture, mark, strategy, seed: 1 }, kernels));
    let sum = 0;
    for (let i = 0; i < box.width * box.height; i++) {
      sum += Math.abs(4 * (inOwnLight.data[4 * i + 2]! - 80) - (Math.floor(i / box.width) + box.y));
    }
    return sum / (box.width * box.height);
  };
  expect(rowsAway(width - 48)).toBeLessThan(0.6 * rowsAway(96));
});

test('past the edge of a picture no smooth surface is drawn out to begin with, whatever the strategy', () => {
  const [width, height] = [240, 180];
  const next = noise(9, 60);
  const image = pictureOf(width, height, (x, y) => [100 + next() + (y > 90 ? 60 : 0), 90 + next(), 80 + x / 4]);
  const smooth = FILL_STRATEGIES.find(({ start }) => start === 'membrane')!;
  const differsFromPeel = (mark: Mask): boolean => {
    const [a, b] = [smooth, { ...smooth, start: 'peel' as const }].map(
      (strategy) => run({ image, mark, strategy }).image,
    );
    return a!.data.some((value, i) => value !== b!.data[i]);
  };
  expect(differsFromPeel(maskOf(width, height, (x) => x >= width - 48))).toBe(false);
  expect(differsFromPeel(maskOf(width, height, (x) => x >= 96 && x < 144))).toBe(true);
});

test('a strategy that begins with lines does so amid lively surroundings, and with a smooth surface amid even ones', () => {
  const [width, height] = [240, 180];
  const linesFirst = FILL_STRATEGIES.find(({ startWhereEven }) => startWhereEven)!;
  const isAsWith = (start: 'lines' | 'membrane', grain: number): boolean => {
    const next = noise(7, grain);
    const image = pictureOf(width, height, (x, y) => [110 + next() + (x + y) / 8, 100 + next(), 90 + y / 6]);
    const mark = maskOf(width, height, (x, y) => (x - 120) ** 2 + (y - 90) ** 2 < 30 ** 2);
    const { startWhereEven: _, ...only } = { ...linesFirst, start };
    const [a, b] = [linesFirst, only].map((strategy) => run({ image, mark, strategy }).image.data);
    return a!.every((value, i) => value === b![i]);
  };
  expect([isAsWith('lines', 90), isAsWith('membrane', 90)]).toEqual([true, false]);
  expect([isAsWith('lines', 2), isAsWith('membrane', 2)]).toEqual([false, true]);
});

test('past the edge of a picture takes are handicapped by what each is worth there', () => {
  const [width, height] = [200, 150];
  const next = noise(3, 120);
  const image = pictureOf(width, height, () => [100 + next(), 100 + next(), 90]);
  const strategy = { ...FILL_STRATEGIES[0]!, handicap: 0, handicapPastEdge: 0 };
  const moved = (mark: Mask, change: object): number =>
    run({ image, mark, strategy: { ...strategy, ...change } }).rank - run({ image, mark, strategy }).rank;
  const margin = maskOf(width, height, (x) => x >= width - 40);
  const inside = maskOf(width, height, (x, y) => Math.abs(x - 100) < 20 && Math.abs(y - 75) < 20);
  expect(moved(margin, { handicapPastEdge: 0.5 })).toBeCloseTo(0.5);
  expect(moved(margin, { handicap: 0.5 })).toBeCloseTo(0);
  expect(moved(inside, { handicap: 0.5 })).toBeCloseTo(0.5);
  expect(moved(inside, { handicapPastEdge: 0.5 })).toBeCloseTo(0);
});

/** The mean tone, over the columns from `left` to `right`, of a lively texture of 100 levels rebuilt from one of 140. */
function toneRebuilt(mark: Mask, left: number, right: number, planes?: PlaneCorners[]): number {
  const grain = noise(6, 60);
  const { width, height } = mark;
  const image = pictureOf(width, height, (x) => {
    const value = (x < 330 ? 100 : 140) + grain();
    return [value, value, value];
  });
  const donors = maskOf(width, height, (x) => x >= 340);
  const { data } = whole(image, run({ image, mark, donors, ...(planes && { planes }) }));
  let [sum, count] = [0, 0];
  for (let y = 60; y < height - 60; y++) {
    for (let x = left; x < right; x++, count++) sum += data[4 * (y * width + x)]!;
  }
  return sum / count;
}

test('lively texture takes on the tone beside it, far from it past the edge, some way in between known places', () => {
  const margin = maskOf(480, 200, (x) => x < 120);
  expect(Math.abs(toneRebuilt(margin, 10, 40) - 100)).toBeLessThan(16);
  const inside = maskOf(480, 200, (x, y) => x >= 100 && x < 220 && y >= 10 && y < 190);
  expect(Math.abs(toneRebuilt(inside, 130, 190) - 100)).toBeLessThan(25);
});

test('where there are planes it keeps its own but for what lies near the rim, on them and beside them', () => {
  const inside = maskOf(480, 200, (x, y) => x >= 100 && x < 220 && y >= 10 && y < 190);
  const corners: PlaneCorners['corners'] = [
    { x: 0, y: 0 },
    { x: 480, y: 0 },
    { x: 480, y: 200 },
    { x: 0, y: 200 },
  ];
  expect(toneRebuilt(inside, 145, 175, [{ corners }])).toBeGreaterThan(130);
  const beside = corners.map(({ x, y }) => ({ x, y: y / 5 })) as unknown as PlaneCorners['corners'];
  expect(toneRebuilt(inside, 145, 175, [{ corners: beside }])).toBeGreaterThan(130);
});

test('what is filled beside a drawn arc leaves the arc where it runs', () => {
  const grain = noise(3, 6);
  const isArc = (x: number, y: number): boolean => Math.abs(Math.hypot(x + 0.5 - 80, y + 0.5 - 216) - 140) < 3;
  const truth = pictureOf(SIZE, SIZE, (x, y) => {
    const value = (isArc(x, y) ? 50 : 160) + grain();
    return [value, value, value];
  });
  const image = { ...truth, data: truth.data.slice() };
  for (let i = 0; i < MARK.data.length; i++) if (MARK.data[i]) image.data.set([255, 0, 255, 255], 4 * i);
  const strategy = { ...FILL_STRATEGIES[0]!, runsOn: 'lines first' as const };
  const { box, image: rebuilt } = drain(fillRegion({ image, mark: MARK, strategy, seed: 1 }, kernels));
  let [wrong, pixels] = [0, 0];
  for (let y = 0; y < box.height; y++) {
    for (let x = 0; x < box.width; x++) {
      const at = (y + box.y) * SIZE + x + box.x;
      if (!MARK.data[at]) continue;
      pixels++;
      if (Math.abs(rebuilt.data[4 * (y * box.width + x) + 1]! - truth.data[4 * at + 1]!) > 55) wrong++;
    }
  }
  // Filled without drawing, a tenth of the hole is.
  expect(wrong).toBeLessThan(0.03 * pixels);
});

test('a hole that is drawn whole is judged like any other', () => {
  const edge = pictureOf(SIZE, SIZE, (_, y) => (y < 80 ? [60, 60, 60] : [170, 170, 170]));
  const mark = maskOf(SIZE, SIZE, (x, y) => x >= 60 && x < 100 && Math.abs(y - 80) < 3);
  const image = { ...edge, data: edge.data.slice() };
  for (let i = 0; i < mark.data.length; i++) if (mark.data[i]) image.data.set([255, 0, 255, 255], 4 * i);
  const strategy = { ...FILL_STRATEGIES[0]!, runsOn: 'lines first' as const };
  const made = drain(fillRegion({ image, mark, strategy, seed: 1 }, kernels));
  expect(Number.isFinite(made.rank)).toBe(true);
  const whole = { ...image, data: image.data.slice() };
  pasteImage(whole, made.box, made.image);
  // Three tenths of a px of a step of 110 levels.
  expect(differingPixels(whole, edge, 33)).toEqual([]);
});

test('what repeats is carried on and shown early, but for planes that are given', () => {
  const grain = noise(5, 4);
  const grid = pictureOf(SIZE, SIZE, (x, y) => {
    const value = (x % 20 < 4 || y % 16 < 3 ? 60 : 170) + grain();
    return [value, value, value];
  });
  const image = withObject(grid, MARK);
  const strategy = { ...FILL_STRATEGIES[0]!, runsOn: 'repeats first' as const };
  const learned: Learned = {};
  const reports: Progress[] = [];
  const input = { image, mark: MARK, strategy, seed: 1, learned };
  const made = drain(fillRegion(input, kernels), (progress) => void reports.push(progress));
  expect(learned.repeats?.drawn?.pixels).toBeGreaterThan(0.8 * MARK.data.filter((m) => m > 0).length);
  expect(errorInside(whole(image, made), grid)).toBeLessThan(6);
  expect(reports.some(({ preview }) => preview)).toBe(true);
  const given: Learned = {};
  drain(fillRegion({ ...input, learned: given, planes: [] }, kernels));
  expect(given.repeats).toBeUndefined();
});

test.each(['large pieces', 'along planes', 'fine pieces'])(
  'a line that was set changes what is there: each side of it is filled from what looks like it, by %s',
  (name) => {
    const grain = noise(4, 6);
    // A dark hill before a light sky, its ridge level; it is set to rise in the middle.
    const image = pictureOf(240, 180, (_, y) => {
      const level = (y < 100 ? 210 : 60) + grain();
      return [level, level, level];
    });
    const mark = maskOf(240, 180, (x, y) => (x - 120) ** 2 + (y - 100) ** 2 < 45 ** 2);
    const ridge = {
      points: [70, 85, 120, 155, 170].map((x) => ({ x, y: x === 120 ? 76 : x > 80 && x < 160 ? 96 : 100 })),
      widths: [0, 0] as const,
    };
    const strategy = FILL_STRATEGIES.find((each) => each.name === name)!;
    const { image: made, box } = run({ image, mark, strategy, lines: [ridge] });
    const at = (x: number, y: number): number => made.data[4 * ((y - box.y) * box.width + x - box.x)]!;
    for (const y of [84, 92, 98, 120]) expect(at(120, y)).toBeLessThan(100);
    for (const y of [60, 68]) expect(at(120, y)).toBeGreaterThan(170);
  },
);

test('lines that were set and come nowhere near the mark change nothing but that none is found', () => {
  const image = boards();
  const strategy = FILL_STRATEGIES.find(({ name }) => name === 'large pieces')!;
  const far = [{ points: [5, 60].map((x) => ({ x, y: 4 })), widths: [2, 2] as const }];
  expect(
    differingPixels(run({ image, strategy, lines: far }).image, run({ image, strategy, lines: [] }).image),
  ).toEqual([]);
});
