import { expect, test } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { build } from 'vite';
import { createServer } from '../../src/server/createServer.ts';
import { Bench, downloadsInsteadOfDialogs, smallScene } from '../support/bench.ts';
import { extendedSource, ROOT } from '../support/extended.ts';

// A kind of step is two folders and a line in each of two lists, a format one file and a line: interface, steps, recipes
// and the command line learn both from there.

const SIZE = { width: 400, height: 260 };

/** The small scene in the made-up format. */
async function plainScene(): Promise<Buffer> {
  const pixels = await sharp(await smallScene())
    .ensureAlpha()
    .raw()
    .toBuffer();
  return Buffer.concat([Buffer.from(`PLAIN ${SIZE.width} ${SIZE.height}\n`), pixels]);
}

/** Pixels of a plain file, four bytes each. */
const pixelsOf = (file: Buffer): Buffer => file.subarray(file.indexOf('\n') + 1);
const at = (pixels: Buffer, x: number, y: number): number[] =>
  [...pixels.subarray(4 * (y * SIZE.width + x))].slice(0, 3);

test('a made-up kind of step and a made-up format are there in types, card, steps, recipe and on the command line', async ({
  page,
}) => {
  const source = extendedSource();
  execFileSync(join(ROOT, 'node_modules/.bin/tsc'), ['--noEmit', '-p', source], { cwd: source });
  const outDir = join(source, 'dist');
  await build({
    root: source,
    configFile: join(source, 'vite.config.ts'),
    publicDir: false,
    build: { outDir, emptyOutDir: true },
    logLevel: 'silent',
  });
  const server = createServer(outDir).listen(0, '127.0.0.1');
  await once(server, 'listening');
  try {
    const { port } = server.address() as AddressInfo;
    await downloadsInsteadOfDialogs(page);
    await page.goto(`http://localhost:${port}/`);
    const photo = await plainScene();
    await page
      .getByLabel('Open photos')
      .setInputFiles({ name: 'boards.plain', mimeType: 'application/octet-stream', buffer: photo });
    await page.waitForURL(/\/p\/[^/]+$/);
    const bench = new Bench(page, SIZE);
    await bench.lasso([110, 120], 36);
    await page.getByRole('button', { name: 'Negative', exact: true }).click();
    await expect(page.getByText('What is light becomes dark.')).toBeVisible();
    await bench.makeTakes();
    await bench.use();
    await expect(bench.steps.first()).toContainText('Negative at 100 %');
    await bench.steps
      .first()
      .getByRole('button', { name: /^Step 1/ })
      .click();
    await expect(page.getByRole('button', { name: /^2 What happens/ })).toContainText('Negative');
    await page.getByRole('link', { name: 'Deliver' }).click();
    await page.getByRole('button', { name: 'Plain', exact: true }).click();
    const saved = async (button: string): Promise<Buffer> => {
      await expect(page.getByRole('button', { name: button })).toBeEnabled();
      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: button }).click();
      return readFileSync(await (await download).path());
    };
    const delivered = await saved('Save the picture');
    const [before, after] = [pixelsOf(photo), pixelsOf(delivered)];
    expect(at(after, 110, 120)).toEqual(at(before, 110, 120).map((value) => 255 - value));
    expect(at(after, 300, 40)).toEqual(at(before, 300, 40));

    // The same by the command line: from the recipe, and by a command of its own.
    const recipe = await saved('Save the steps as a recipe');
    const folder = mkdtempSync(join(tmpdir(), 'extended-'));
    const [photoPath, recipePath, markPath] = ['boards.plain', 'recipe.json', 'mark.png'].map((name) =>
      join(folder, name),
    );
    writeFileSync(photoPath!, photo);
    writeFileSync(recipePath!, recipe);
    const mark = Buffer.alloc(SIZE.width * SIZE.height);
    mark.fill(255, 0, SIZE.width * 10);
    await sharp(mark, { raw: { ...SIZE, channels: 1 } })
      .png()
      .toFile(markPath!);
    const fingo = (...args: string[]): string =>
      execFileSync(process.execPath, ['--import', 'tsx', join(source, 'src/cli/main.ts'), ...args], {
        cwd: ROOT,
        encoding: 'utf8',
      });
    fingo('run', recipePath!, photoPath!, '--out-dir', folder);
    const replayed = await sharp(join(folder, 'boards-recomposed.png')).ensureAlpha().raw().toBuffer();
    expect(replayed.equals(after)).toBe(true);
    expect(fingo('negative', '--help')).toContain('--strength');
    fingo('negative', photoPath!, '--mark', markPath!, '--out', join(folder, 'out.plain'));
    const out = pixelsOf(readFileSync(join(folder, 'out.plain')));
    expect(at(out, 5, 5)).toEqual(at(before, 5, 5).map((value) => 255 - value));
    expect(at(out, 5, 50)).toEqual(at(before, 5, 50));
  } finally {
    server.close();
  }
});
