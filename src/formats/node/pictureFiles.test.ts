import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { pictureOf } from '../../../tests/support/pictures.ts';
import { formatFor, readMask, readPicture, writePicture } from './pictureFiles.ts';

let folder = '';
const at = (name: string) => join(folder, name);
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fingo-formats-'));
});

test('a PNG comes back pixel for pixel, transparency included', async () => {
  const image = pictureOf(7, 5, (x, y) => [x * 30, y * 40, 9]);
  image.data[3] = 100;
  await writePicture(at('a.png'), image);
  expect((await readPicture(at('a.png'))).image).toEqual(image);
});

test('the orientation tag is honoured', async () => {
  const data = Buffer.from([255, 0, 0, 0, 0, 255]);
  const upright = sharp(data, { raw: { width: 2, height: 1, channels: 3 } });
  // 6 = the camera was held with its right side down: turn clockwise to see it upright.
  await upright
    .resize(32, 16, { kernel: 'nearest' })
    .jpeg({ quality: 100 })
    .withMetadata({ orientation: 6 })
    .toFile(at('turned.jpg'));
  const { image } = await readPicture(at('turned.jpg'));
  expect([image.width, image.height]).toEqual([16, 32]);
  expect(image.data[0]!).toBeGreaterThan(200);
  expect(image.data[4 * (31 * 16) + 2]!).toBeGreaterThan(200);
});

test('a file that ends in the middle is refused', async () => {
  const whole = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#a63' } })
    .jpeg()
    .toBuffer();
  await writeFile(at('half.jpg'), whole.subarray(0, whole.length / 2));
  await expect(readPicture(at('half.jpg'))).rejects.toThrow(/damaged or ends in the middle.*nothing was changed/);
});

test('white of a mask picture is marked, grey half', async () => {
  const photo = pictureOf(3, 1, () => [0, 0, 0]);
  await writePicture(
    at('mask.png'),
    pictureOf(3, 1, (x) => [x * 127, x * 127, x * 127]),
  );
  expect(Array.from((await readMask(at('mask.png'), photo, 'The mark')).data)).toEqual([0, 127, 254]);
});

test('an ending that is no picture format is refused before any work', () => {
  expect(() => formatFor('out.gif')).toThrow(/\.jpg, \.png or \.webp/);
});
