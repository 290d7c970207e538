import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { fingo, folderWithPhoto, pixels } from '../../tests/support/commandLine.ts';
import { colouredSphere } from '../../tests/support/sphere.ts';
import { readFileMetadata } from '../formats/metadata/readWrite.ts';
import { readSphereTags } from '../formats/metadata/sphereTags.ts';
import { KINDS, loadCommands } from '../operations/kinds.ts';

const [WIDTH, HEIGHT] = [180, 140];
let at: (name: string) => string;
let photo: Buffer;

beforeAll(async () => {
  at = await folderWithPhoto();
  photo = await pixels(at('photo.png'));
});

/** Runs a command on the photo, which must do; the pixels that it wrote. */
async function made(...args: string[]): Promise<Buffer> {
  const [name, ...options] = args;
  expect(await fingo(name!, at('photo.png'), ...options, '--out', at('out.png'))).toMatchObject({ code: 0, err: '' });
  return pixels(at('out.png'));
}

/** The pixels that differ from the photo, as rectangle (left, top, right, bottom). */
function changed(picture: Buffer): [number, number, number, number] {
  let [left, top, right, bottom] = [WIDTH, HEIGHT, 0, 0];
  for (let k = 0; k < WIDTH * HEIGHT; k++) {
    if (picture.compare(photo, 3 * k, 3 * k + 3, 3 * k, 3 * k + 3) === 0) continue;
    const [x, y] = [k % WIDTH, Math.floor(k / WIDTH)];
    [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x + 1), Math.max(bottom, y + 1)];
  }
  return [left, top, right, bottom];
}
const isRed = (image: Buffer, x: number, y: number): boolean =>
  image[3 * (y * WIDTH + x)]! - image[3 * (y * WIDTH + x) + 1]! > 100;

test('every kind of step has its command', async () => {
  const commands = await loadCommands();
  expect(commands.map(({ type }) => type)).toEqual(KINDS.map(({ type }) => type));
  for (const { command } of commands) {
    const help = await fingo(command.name, '--help');
    expect([help.code, help.out]).toEqual([0, expect.stringContaining('--out <picture>')]);
  }
});

test('duplicate leaves the subject where it is and puts a second one elsewhere', async () => {
  const picture = await made('duplicate', '--mark', at('mask.png'), '--by', '70,5');
  expect([isRed(picture, 60, 70), isRed(picture, 130, 75)]).toEqual([true, true]);
}, 60_000);

test('refine makes what is marked anew; stroke clears along a stroke', async () => {
  const refined = await made('refine', '--mark', at('mask.png'));
  expect(isRed(refined, 60, 70)).toBe(false);
  await writeFile(at('stroke.json'), '[[60, 60], [60, 80]]');
  const stroked = await made('stroke', '--along', at('stroke.json'), '--radius', '16');
  expect([isRed(stroked, 60, 70), isRed(photo, 60, 70)]).toEqual([false, true]);
  expect(changed(stroked)[2]).toBeLessThan(85);
}, 60_000);

test('what is protected stays, though it is marked', async () => {
  await sharp(Buffer.from('<svg width="180" height="140"><rect x="60" width="120" height="140" fill="#fff"/></svg>'))
    .flatten({ background: '#000' })
    .png()
    .toFile(at('right.png'));
  const picture = await made('clear', '--mark', at('mask.png'), '--protect', at('right.png'));
  expect([isRed(picture, 55, 70), isRed(picture, 65, 70)]).toEqual([false, true]);
}, 60_000);

test('enlarge gives another size, the other side in proportion', async () => {
  await made('enlarge', '--width', '360');
  expect(await sharp(at('out.png')).metadata()).toMatchObject({ width: 360, height: 280 });
  await made('enlarge', '--height', '70', '--width', '100');
  expect(await sharp(at('out.png')).metadata()).toMatchObject({ width: 100, height: 70 });
});

test('text is laid where it is to lie, in its colour; behind a mask it stays behind', async () => {
  const say = ['text', '--say', 'III', '--at', '50,40', '--size', '60', '--colour', '#00ff00'];
  const picture = await made(...say);
  const [left, top, right, bottom] = changed(picture);
  expect(left).toBeGreaterThanOrEqual(50);
  expect(top).toBeGreaterThanOrEqual(40);
  expect(right - left).toBeGreaterThan(20);
  expect(bottom - top).toBeGreaterThan(30);
  const green = (data: Buffer) =>
    Array.from({ length: WIDTH * HEIGHT }, (_, k) => k).filter((k) => data[3 * k]! < 20 && data[3 * k + 1]! > 230);
  expect(green(picture).length).toBeGreaterThan(200);
  const behind = await made(...say, '--behind', at('mask.png'));
  const mask = await sharp(at('mask.png')).removeAlpha().toColourspace('b-w').raw().toBuffer();
  expect(green(behind)).toEqual(green(picture).filter((k) => mask[k] === 0));
});

test('a sphere is set level, and the file tells that it is one', async () => {
  const sphere = colouredSphere(400);
  await sharp(sphere.data, { raw: { width: 400, height: 200, channels: 4 } })
    .removeAlpha()
    .png()
    .toFile(at('sphere.png'));
  const { code, err } = await fingo('level', at('sphere.png'), '--yaw', '90', '--out', at('turned.png'));
  expect([code, err]).toEqual([0, '']);
  const [before, after] = [await pixels(at('sphere.png')), await pixels(at('turned.png'))];
  // A quarter of the way round is 100 columns: what was left of the middle is in it.
  const row = 3 * 400 * 100;
  expect(after.subarray(row + 3 * 200, row + 3 * 203)).toEqual(before.subarray(row + 3 * 100, row + 3 * 103));
  const { xmp } = readFileMetadata(new Uint8Array(await readFile(at('turned.png'))));
  expect(readSphereTags(xmp!)).toMatchObject({ FullPanoWidthPixels: 400 });
});

test('planes that were found around a mark are given back to be rebuilt along', async () => {
  const demo = (name: string) => fileURLToPath(new URL(`../../demo/${name}`, import.meta.url));
  const [quay, mask] = [demo('public/demo/quay.jpg'), demo('truth/quay_mask-jars.png')];
  const found = await fingo('planes', quay, '--mark', mask, '--out', at('planes.json'));
  expect(found).toMatchObject({ code: 0, err: '' });
  const planes = JSON.parse(await readFile(at('planes.json'), 'utf8')) as { corners: unknown[] }[];
  expect(planes[0]!.corners).toHaveLength(4);
  const clear = async (name: string, ...more: string[]) => {
    const { code } = await fingo('clear', quay, '--mark', mask, '--out', at(name), ...more);
    return [code, await pixels(at(name))] as const;
  };
  const [code, along] = await clear('along.png', '--planes', at('planes.json'));
  expect(code).toBe(0);
  await writeFile(at('off.json'), JSON.stringify(planes.map((plane) => ({ ...plane, on: false }))));
  expect((await clear('off.png', '--planes', at('off.json')))[1].equals(along)).toBe(false);
}, 60_000);

test('lines that were found through a mark are given back to be drawn along; switched off, they are not', async () => {
  const level = (x: number, y: number): number => (Math.abs(y - 60 - 0.2 * x) < 4 ? 60 : 170);
  const grey = Buffer.from(Array.from({ length: 240 * 160 }, (_, i) => level(i % 240, Math.floor(i / 240))));
  const lid = Buffer.from(
    Array.from({ length: 240 * 160 }, (_, i) => (Math.hypot((i % 240) - 120, i / 240 - 84) < 26 ? 255 : 0)),
  );
  const raw = { raw: { width: 240, height: 160, channels: 1 as const } };
  await sharp(grey, raw).png().toFile(at('bar.png'));
  await sharp(lid, raw).png().toFile(at('lid.png'));
  const found = await fingo('lines', at('bar.png'), '--mark', at('lid.png'), '--out', at('lines.json'));
  expect(found).toMatchObject({ code: 0, err: '' });
  const lines = JSON.parse(await readFile(at('lines.json'), 'utf8')) as { points: { x: number; y: number }[] }[];
  expect(lines).toHaveLength(1);
  for (const { x, y } of lines[0]!.points) expect(Math.abs(y - 60 - 0.2 * x)).toBeLessThan(1);
  const [first, last] = [lines[0]!.points[0]!, lines[0]!.points.at(-1)!];
  const low = [{ ...lines[0], points: [first, { x: 120, y: 100 }, last] }];
  await writeFile(at('low.json'), JSON.stringify(low));
  const args = ['clear', at('bar.png'), '--mark', at('lid.png'), '--out', at('low.png'), '--lines', at('low.json')];
  expect(await fingo(...args)).toMatchObject({ code: 0, err: '' });
  expect((await pixels(at('low.png')))[3 * (99 * 240 + 120)]!).toBeLessThan(100);
}, 60_000);

test.each([
  [
    'letters in a typeface that does not ship',
    ['text', '--say', 'a', '--face', 'Nowhere Sans'],
    /no typeface "Nowhere/,
  ],
  ['no size at all', ['enlarge'], /--width or --height/],
  ['a stroke that is none', ['stroke', '--along', 'none.json'], /\[\[x, y\], \.\.\.\]/],
  ['planes that are none', ['clear', '--mark', 'mask.png', '--planes', 'none.json'], /holds no planes/],
  ['lines that are none', ['clear', '--mark', 'mask.png', '--lines', 'none.json'], /holds no lines/],
  ['a flat photo to be levelled as a sphere', ['level', '--roll', '3'], /a sphere is exactly twice/],
])('%s: refused in one sentence', async (_, [name, ...args], sentence) => {
  await writeFile(at('none.json'), '{"a": 1}');
  const given = args.map((arg) => (/\.(png|json)$/.test(arg) ? at(arg) : arg));
  const { code, err } = await fingo(name!, at('photo.png'), ...given, '--out', at('x.png'));
  expect(err).toMatch(sentence);
  expect([code, err.trim().split('\n').length]).toEqual([2, 1]);
});
