import { readFile, writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { fingo, fingoProcess, folderWithPhoto, pixels } from '../../tests/support/commandLine.ts';
import { colouredSphere } from '../../tests/support/sphere.ts';
import { cameraAt, shoot } from '../../tests/support/sweep.ts';
import { readFileMetadata } from '../formats/metadata/readWrite.ts';
import { readSphereTags } from '../formats/metadata/sphereTags.ts';

let at: (name: string) => string;

beforeAll(async () => {
  at = await folderWithPhoto();
});

test('clear writes the best take, the others beside it, and a report', async () => {
  const { code, err } = await fingoProcess(
    ...['clear', at('photo.png'), '--mark', at('mask.png'), '--takes', '3', '--out', at('out.png')],
    ...['--report', at('report.json')],
  );
  expect([code, err]).toEqual([0, '']);
  const report = JSON.parse(await readFile(at('report.json'), 'utf8')) as {
    takes: { file: string; rank: number; timingsMs: Record<string, number> }[];
    peakMemoryBytes: number;
  };
  const ranks = report.takes.map((take) => take.rank);
  expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
  expect(report.takes[1]!.file).toBe(at('out.take-2.png'));
  expect(report.takes[0]!.timingsMs.copy).toBeGreaterThan(0);
  expect(report.peakMemoryBytes).toBeGreaterThan(1e7);
  const [before, result, mask] = await Promise.all([
    pixels(at('photo.png')),
    pixels(at('out.png')),
    sharp(at('mask.png')).extractChannel(0).raw().toBuffer(),
  ]);
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] === 0) expect(result.subarray(3 * i, 3 * i + 3).equals(before.subarray(3 * i, 3 * i + 3))).toBe(true);
    else expect(result[3 * i]! - result[3 * i + 1]!).toBeLessThan(60);
  }
}, 60_000);

test('move puts the subject elsewhere; with --copy the old place stays', async () => {
  const place = ['--mark', at('mask.png'), '--by', '70,5'];
  expect((await fingo('move', at('photo.png'), ...place, '--out', at('moved.png'))).code).toBe(0);
  expect((await fingo('move', at('photo.png'), ...place, '--copy', '--out', at('copied.png'))).code).toBe(0);
  const isRed = (image: Buffer, x: number, y: number) =>
    image[3 * (y * 180 + x)]! - image[3 * (y * 180 + x) + 1]! > 100;
  const [moved, copied] = await Promise.all([pixels(at('moved.png')), pixels(at('copied.png'))]);
  expect([isRed(moved, 60, 70), isRed(moved, 130, 75)]).toEqual([false, true]);
  expect([isRed(copied, 60, 70), isRed(copied, 130, 75)]).toEqual([true, true]);
}, 60_000);

test('frame carries the photo past its edges, and writes the margins as a plate', async () => {
  const args = ['--edges', '30,0,0,0', '--rim', '0', '--out', at('wide.png'), '--plate', at('plate.png')];
  expect(await fingo('frame', at('photo.png'), ...args)).toMatchObject({ code: 0, err: '' });
  const [wide, plate] = [sharp(at('wide.png')), sharp(at('plate.png'))];
  expect(await wide.metadata()).toMatchObject({ width: 210, height: 140, hasAlpha: false });
  const photo = await wide.extract({ left: 30, top: 0, width: 180, height: 140 }).raw().toBuffer();
  expect(photo.equals(await pixels(at('photo.png')))).toBe(true);
  const alpha = await plate.extractChannel(3).raw().toBuffer();
  expect([alpha[10], alpha[29], alpha[100]]).toEqual([255, 255, 0]);
  const turned = await fingo('frame', at('photo.png'), '--level', '4', '--ratio', '1:1', '--out', at('square.png'));
  expect(turned.code).toBe(0);
  expect(await sharp(at('square.png')).metadata()).toMatchObject({ width: 180, height: 180, hasAlpha: false });
}, 60_000);

test('run applies a recipe to a photo of its size', async () => {
  const mark = {
    shapes: [{ kind: 'stroke', combine: 'also', points: [60, 70], radiusPx: 18, hardness: 1, intensity: 1 }],
  };
  const params = { mark, take: { strategy: 'even', seed: 1 } };
  const recipe = {
    format: 'fingo-recipe',
    version: 1,
    photo: { width: 180, height: 140 },
    steps: [{ id: 'a', type: 'clear', version: 1, params }],
  };
  await writeFile(at('recipe.json'), JSON.stringify(recipe));
  const { code, out } = await fingo('run', at('recipe.json'), at('photo.png'), '--out-dir', at('results'));
  expect([code, out.trim()]).toEqual([0, at('results/photo-recomposed.png')]);
  const wrong = await fingo('run', at('recipe.json'), at('small.png'), '--out-dir', at('results'));
  expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('50 x 50')]);
}, 60_000);

test.each([
  ['a missing mark', ['clear', 'photo.png', '--out', 'o.png'], /--mark/],
  ['a mask of another size', ['clear', 'photo.png', '--mark', 'small.png', '--out', 'o.png'], /50 x 50 px.*180 x 140/],
  ['a photo that is not there', ['clear', 'none.png', '--mark', 'mask.png', '--out', 'o.png'], /can't be read/],
  [
    'a value out of range',
    ['clear', 'photo.png', '--mark', 'mask.png', '--closeness', '300', '--out', 'o.png'],
    /0 to 100/,
  ],
  ['an ending that can’t be written', ['clear', 'photo.png', '--mark', 'mask.png', '--out', 'o.gif'], /\.jpg, \.png/],
  ['a shift that is none', ['move', 'photo.png', '--mark', 'mask.png', '--by', '12', '--out', 'o.png'], /120,-30/],
  ['a ratio of nothing', ['frame', 'photo.png', '--ratio', '0:3', '--out', 'o.png'], /ratio like 4:5/],
  ['a frame far too large', ['frame', 'photo.png', '--edges', '9000,0,0,9000', '--out', 'o.png'], /too large/],
  ['lines that are not there', ['frame', 'small.png', '--level', 'auto', '--out', 'o.png'], /give the degrees/],
  ['an unknown command', ['paint'], /unknown command/i],
])(
  '%s ends with exit code 2 and one sentence',
  async (_, args, message) => {
    const { code, err } = await fingo(...args.map((arg) => (/\.(png|gif)$/.test(arg) ? at(arg) : arg)));
    expect(code).toBe(2);
    expect(err).toMatch(message);
    expect(err.trim().split('\n')).toHaveLength(1);
  },
  30_000,
);

test('marks are made from the picture: by colour, and the subject in a loop', async () => {
  expect((await fingo('mark', 'reach', at('photo.png'), '--at', '60,70', '--out', at('reach.png'))).code).toBe(0);
  const disc = Math.PI * 12 ** 2;
  const marked = async (name: string): Promise<number> =>
    (await sharp(at(name)).greyscale().raw().toBuffer()).reduce((sum, value) => sum + value / 255, 0);
  expect(Math.abs((await marked('reach.png')) / disc - 1)).toBeLessThan(0.1);
  await writeFile(
    at('loop.json'),
    JSON.stringify([
      [40, 50],
      [80, 50],
      [80, 92],
      [40, 92],
    ]),
  );
  const found = await fingo('mark', 'subject', at('photo.png'), '--loop', at('loop.json'), '--out', at('subject.png'));
  expect(found).toMatchObject({ code: 0, err: '' });
  expect(Math.abs((await marked('subject.png')) / disc - 1)).toBeLessThan(0.15);
});

test('a loop that is none and a colour that is not said are refused in a sentence', async () => {
  await writeFile(at('line.json'), '[[1, 2], [3, 4]]');
  const noLoop = await fingo('mark', 'subject', at('photo.png'), '--loop', at('line.json'), '--out', at('x.png'));
  expect(noLoop.code).toBe(2);
  expect(noLoop.err).toMatch(/at least three points/);
  const noColour = await fingo('mark', 'reach', at('photo.png'), '--out', at('x.png'));
  expect(noColour).toMatchObject({ code: 2, err: expect.stringContaining('give --at X,Y') });
});

test('borrow and lengthen change only what they should', async () => {
  const args = ['--mark', at('mask.png'), '--out', at('borrowed.png'), '--from', '80,0'];
  expect((await fingo('borrow', at('photo.png'), ...args)).code).toBe(0);
  const [before, after] = [await pixels(at('photo.png')), await pixels(at('borrowed.png'))];
  const mask = await sharp(at('mask.png')).greyscale().raw().toBuffer();
  mask.forEach((value, i) => {
    if (!value) expect(after[3 * i]).toBe(before[3 * i]);
  });
  expect(after[3 * (70 * 180 + 60)]! - after[3 * (70 * 180 + 60) + 1]!).toBeLessThan(20);
  const longer = ['--mark', at('mask.png'), '--out', at('longer.png'), '--by', '40,0'];
  expect((await fingo('lengthen', at('photo.png'), ...longer)).code).toBe(0);
  expect((await pixels(at('longer.png'))).equals(before)).toBe(false);
});

test('two frames are stitched, cropped to what they cover, with a report on each', async () => {
  const size = { width: 300, height: 220 };
  const paths = await Promise.all(
    [-14, 14].map(async (yaw, k) => {
      const { data } = shoot(cameraAt(yaw, 0, 0, 300), size, { gain: 1 + k / 10 });
      const path = at(`frame-${k}.png`);
      await sharp(data, { raw: { ...size, channels: 4 } })
        .png()
        .toFile(path);
      return path;
    }),
  );
  const { code, err } = await fingo(
    ...['stitch', ...paths, '--crop', 'inside', '--out', at('pano.png'), '--report', at('stitch.json')],
  );
  expect([code, err]).toEqual([0, '']);
  const report = JSON.parse(await readFile(at('stitch.json'), 'utf8')) as {
    frames: { file: string; used: boolean; focalPx: number; gain: number; homography: number[] }[];
  };
  expect(report.frames.map(({ file, used }) => [file, used])).toEqual(paths.map((path) => [path, true]));
  // From the second frame's px to the first's: 28 degrees to the right.
  const [a, b, c, , , , g, h, i] = report.frames[1]!.homography as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const x = (a * 150 + b * 110 + c) / (g * 150 + h * 110 + i);
  expect(Math.abs(x - (150 + 300 * Math.tan((28 * Math.PI) / 180)))).toBeLessThan(1.5);
  expect(report.frames[1]!.gain).toBeCloseTo(1.1, 1);
  const { width, hasAlpha } = await sharp(at('pano.png')).metadata();
  expect(width).toBeGreaterThan(420);
  expect(hasAlpha).toBe(false);
});

test('gaps of a panorama stitched elsewhere become a mark; two photos are joined over a space', async () => {
  const photo = await sharp(at('photo.png')).raw().toBuffer();
  for (let y = 0; y < 140; y++) for (let x = 0; x < 20 - y / 4; x++) photo.set([253, 254, 252], 3 * (180 * y + x));
  await sharp(photo, { raw: { width: 180, height: 140, channels: 3 } })
    .png()
    .toFile(at('corner.png'));
  expect(
    await fingo('gaps', at('corner.png'), '--near', 'white', '--grow', '2', '--out-mask', at('gaps.png')),
  ).toMatchObject({ code: 0 });
  const mask = await pixels(at('gaps.png'));
  const channels = mask.length / (180 * 140);
  expect([mask[0], mask[channels * 21], mask[channels * 40]]).toEqual([255, 255, 0]);
  const none = await fingo('gaps', at('photo.png'), '--near', 'white', '--out-mask', at('none.png'));
  expect([none.code, none.err]).toEqual([2, expect.stringContaining('No gap was found')]);

  expect(
    await fingo('join', at('photo.png'), at('corner.png'), '--gap', '30', '--out', at('joined.png')),
  ).toMatchObject({ code: 0 });
  const joined = sharp(at('joined.png'));
  expect(await joined.metadata()).toMatchObject({ width: 390, height: 140, hasAlpha: false });
  const first = await joined.extract({ left: 0, top: 0, width: 170, height: 140 }).raw().toBuffer();
  expect(first).toEqual(
    await sharp(at('photo.png')).extract({ left: 0, top: 0, width: 170, height: 140 }).raw().toBuffer(),
  );
});

test('around looks into a sphere; clear --sphere changes it only near the mark and tells that it is one', async () => {
  const sphere = colouredSphere(400);
  await sharp(sphere.data, { raw: { width: 400, height: 200, channels: 4 } })
    .removeAlpha()
    .png()
    .toFile(at('sphere.png'));
  const looked = await fingo('around', at('sphere.png'), '--pitch', '-90', '--size', '120x90', '--out', at('view.png'));
  expect([looked.code, looked.err]).toEqual([0, '']);
  expect(await sharp(at('view.png')).metadata()).toMatchObject({ width: 120, height: 90 });
  await sharp(Buffer.from('<svg width="120" height="90"><circle cx="60" cy="45" r="12" fill="#fff"/></svg>'))
    .flatten({ background: '#000' })
    .png()
    .toFile(at('view-mask.png'));
  const clear = ['clear', at('sphere.png'), '--sphere', '--mark'];
  const { code, err } = await fingo(...clear, at('view-mask.png'), '--view', '0,-90,90', '--out', at('cleared.png'));
  expect([code, err]).toEqual([0, '']);
  const [before, after] = [await pixels(at('sphere.png')), await pixels(at('cleared.png'))];
  const rows = new Set<number>();
  before.forEach((value, k) => value !== after[k] && rows.add(Math.floor(k / 1200)));
  expect(rows.has(199)).toBe(true);
  expect(Math.min(...rows)).toBeGreaterThan(170);
  const toldBy = async (name: string) =>
    readSphereTags(readFileMetadata(new Uint8Array(await readFile(at(name)))).xmp!);
  expect(await toldBy('cleared.png')).toMatchObject({ FullPanoWidthPixels: 400 });

  const turn = {
    type: 'turnSphere',
    version: 1,
    id: 'a',
    params: { yaw: 90, take: { strategy: 'as it is', seed: 1 } },
  };
  const recipe = { format: 'fingo-recipe', version: 1, photo: { width: 400, height: 200 }, steps: [turn] };
  await writeFile(at('turn.json'), JSON.stringify(recipe));
  const run = await fingo('run', at('turn.json'), at('sphere.png'), '--out-dir', at('turned'));
  expect([run.code, run.err]).toEqual([0, '']);
  expect(await toldBy('turned/sphere-recomposed.png')).toMatchObject({ FullPanoWidthPixels: 400 });
});

test.each([
  [['around', 'photo.png', '--out', 'x.png'], /180 x 140 px; a sphere is exactly twice/],
  [['around', 'sphere.png', '--size', '9x9', '--out', 'x.png'], /from 16x16/],
  [['clear', 'sphere.png', '--view', '0,0,200', '--mark', 'mask.png', '--out', 'x.png'], /angle of view \(10 to 140\)/],
  [['clear', 'sphere.png', '--sphere', '--mark', 'mask.png', '--out', 'x.png'], /180 x 140 px but/],
])('%j is refused with a sentence', async (args, sentence) => {
  const { code, err } = await fingo(...args.map((arg) => (arg.endsWith('.png') ? at(arg) : arg)));
  expect(code).toBe(2);
  expect(err).toMatch(sentence);
});

test('a process that is refused ends with the code for what can be mended, and one sentence', async () => {
  const { code, out, err } = await fingoProcess(
    'clear',
    at('nowhere.png'),
    '--mark',
    at('mask.png'),
    '--out',
    at('x.png'),
  );
  expect([code, out]).toEqual([2, '']);
  expect(err).toMatch(/^"[^\n]*nowhere.png" can't be read;[^\n]*\n$/);
});
