import { jest } from '@jest/globals';
import { execFile } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { runFingo } from '../../src/cli/program.ts';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** The command line as a process of its own. */
export function fingoProcess(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  return new Promise((resolve) => {
    execFile(join(ROOT, 'node_modules/.bin/tsx'), [join(ROOT, 'src/cli/main.ts'), ...args], (error, out, err) => {
      resolve({ code: error ? Number(error.code) : 0, out, err });
    });
  });
}

/** The same in this process, which is quicker. */
export async function fingo(...args: string[]): Promise<{ code: number; out: string; err: string }> {
  const written = { out: '', err: '' };
  const spies = (['stdout', 'stderr'] as const).map((stream) =>
    jest.spyOn(process[stream], 'write').mockImplementation((text) => {
      written[stream === 'stdout' ? 'out' : 'err'] += String(text);
      return true;
    }),
  );
  try {
    const code = await runFingo(args);
    return { code, ...written };
  } finally {
    spies.forEach((spy) => spy.mockRestore());
  }
}

/** A folder with a photo of 180 x 140 px (a red disc before lines), a mask of the disc, and a mask of another size. */
export async function folderWithPhoto(): Promise<(name: string) => string> {
  const folder = await mkdtemp(join(tmpdir(), 'fingo-cli-'));
  const at = (name: string): string => join(folder, name);
  const [width, height] = [180, 140];
  const photo = Buffer.alloc(width * height * 3);
  const mask = Buffer.alloc(width * height);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const inside = (x - 60) ** 2 + (y - 70) ** 2;
    photo.fill(y % 10 < 2 ? 70 : 160 + ((x * x * 7 + y * 131) % 37), 3 * i, 3 * i + 3);
    if (inside < 12 ** 2) photo.set([200, 40, 40], 3 * i);
    if (inside < 18 ** 2) mask[i] = 255;
  }
  await sharp(photo, { raw: { width, height, channels: 3 } })
    .png()
    .toFile(at('photo.png'));
  await sharp(mask, { raw: { width, height, channels: 1 } })
    .png()
    .toFile(at('mask.png'));
  await sharp(mask, { raw: { width, height, channels: 1 } })
    .resize(50, 50)
    .png()
    .toFile(at('small.png'));
  return at;
}

/** The colour samples of a picture, three a pixel. */
export const pixels = (path: string): Promise<Buffer> => sharp(path).removeAlpha().raw().toBuffer();
