import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { runFingo } from '../../src/cli/program.ts';

/**
 * The typical jobs of a frame, done on the demo pictures at a quarter of their size and compared with a small picture of
 * what they gave when a person last looked at it. After a change that is meant to show, look at the new ones and renew
 * them: GOLDEN=renew npx jest tests/golden (with the options that `npm test` gives).
 */
const DEMO = fileURLToPath(new URL('../../demo/public/demo/', import.meta.url));
const GOLDEN = fileURLToPath(new URL('.', import.meta.url));
const SMALL_PX = 120;
/** Mean difference, in levels, from which on a picture is another one. */
const MAX_OFF = 6;

let folder = '';
const at = (name: string): string => join(folder, name);
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'fingo-golden-'))));
afterAll(() => rm(folder, { recursive: true }));

/** A demo picture at a quarter of its size. */
async function quarter(name: string): Promise<{ path: string; width: number; height: number }> {
  const { width } = await sharp(join(DEMO, `${name}.jpg`)).metadata();
  const path = at(`${name}.png`);
  const { width: w, height: h } = await sharp(join(DEMO, `${name}.jpg`))
    .resize({ width: Math.round(width / 4) })
    .png()
    .toFile(path);
  return { path, width: w, height: h };
}

/** How far a picture is from its golden one, in levels; that is written anew where it is asked for. */
async function off(name: string): Promise<number> {
  const small = await sharp(at(`${name}-out.png`))
    .removeAlpha()
    .resize({ width: SMALL_PX })
    .png()
    .toBuffer();
  const golden = join(GOLDEN, `${name}.png`);
  if (process.env.GOLDEN === 'renew') await sharp(small).toFile(golden);
  const [now, then] = await Promise.all([
    sharp(small).raw().toBuffer(),
    sharp(await readFile(golden))
      .raw()
      .toBuffer(),
  ]);
  expect(now.length).toBe(then.length);
  return now.reduce((sum, value, i) => sum + Math.abs(value - then[i]!), 0) / now.length;
}

const pixels = (path: string, rect?: { left: number; top: number; width: number; height: number }): Promise<Buffer> => {
  const picture = sharp(path).removeAlpha();
  return (rect ? picture.extract(rect) : picture).raw().toBuffer();
};

test('a tight still life becomes wide enough for a 5:4 print, its own pixels as they were', async () => {
  const { path, width, height } = await quarter('glaze-table');
  // Of the 3:2 picture its middle, too tight on both sides.
  const tight = { left: Math.round(width * 0.2), top: 0, width: Math.round(width * 0.5), height };
  await sharp(path).extract(tight).png().toFile(at('tight.png'));
  expect(
    await runFingo(['frame', at('tight.png'), '--ratio', '5:4', '--takes', '2', '--out', at('print-out.png')]),
  ).toBe(0);
  const made = await sharp(at('print-out.png')).metadata();
  expect(made.height).toBe(height);
  expect(Math.abs(made.width / made.height - 1.25)).toBeLessThan(0.01);
  const left = Math.round((made.width - tight.width) / 2);
  const inner = { left: left + 6, top: 0, width: tight.width - 12, height };
  const photo = { left: 6, top: 0, width: tight.width - 12, height };
  expect((await pixels(at('print-out.png'), inner)).equals(await pixels(at('tight.png'), photo))).toBe(true);
  expect(await off('print')).toBeLessThan(MAX_OFF);
});

test('a portrait becomes a landscape with its subject on a third', async () => {
  const { path, width, height } = await quarter('dunes-heron');
  const more = Math.round(1.5 * height - width);
  // Two thirds of the new room on the left.
  const edges = [Math.round(0.75 * more), 0, more - Math.round(0.75 * more), 0].join(',');
  expect(await runFingo(['frame', path, '--edges', edges, '--takes', '2', '--out', at('landscape-out.png')])).toBe(0);
  expect(await sharp(at('landscape-out.png')).metadata()).toMatchObject({ width: width + more, height });
  expect(await off('landscape')).toBeLessThan(MAX_OFF);
});

test('levelled by three degrees, the corners that fall vacant rebuilt', async () => {
  const { path, width, height } = await quarter('quay');
  expect(await runFingo(['frame', path, '--level', '3', '--takes', '2', '--out', at('level-out.png')])).toBe(0);
  expect(await sharp(at('level-out.png')).metadata()).toMatchObject({ width, height });
  const { channels, isOpaque } = await sharp(at('level-out.png')).stats();
  expect(isOpaque).toBe(true);
  expect(channels[0]!.mean).toBeGreaterThan(60);
  expect(await off('level')).toBeLessThan(MAX_OFF);
});

test('a house front from below is squared up and filled', async () => {
  const { path } = await quarter('facade');
  expect(await runFingo(['frame', path, '--square', 'auto', '--takes', '2', '--out', at('square-out.png')])).toBe(0);
  expect(await off('square')).toBeLessThan(MAX_OFF);
});

test('a landscape still fills an upright video frame; its plate lines up to the pixel', async () => {
  const { path, width, height } = await quarter('kilnyard');
  const tall = Math.round((width * 16) / 9);
  const above = Math.round((tall - height) / 2);
  const edges = [0, above, 0, tall - height - above].join(',');
  const files = ['--out', at('upright-out.png'), '--plate', at('plate.png')];
  expect(await runFingo(['frame', path, '--edges', edges, '--takes', '1', '--rim', '0', ...files])).toBe(0);
  expect(await sharp(at('upright-out.png')).metadata()).toMatchObject({ width, height: tall });
  const alpha = await sharp(at('plate.png')).extractChannel(3).raw().toBuffer();
  const rowOf = (y: number) => alpha[y * width + Math.floor(width / 2)];
  expect([above - 1, above, above + height - 1, above + height].map(rowOf)).toEqual([255, 0, 0, 255]);
  const inside = { left: 0, top: above, width, height };
  expect((await pixels(at('upright-out.png'), inside)).equals(await pixels(path))).toBe(true);
  expect(await off('upright')).toBeLessThan(MAX_OFF);
});
