import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { downloadsInsteadOfDialogs, openFile, rgbOf, type Bench, type PhotoPoint } from '../support/bench.ts';
import { noise } from '../support/pictures.ts';

test.beforeEach(({ page }) => downloadsInsteadOfDialogs(page));

const [WIDTH, HEIGHT] = [420, 280];

/** A dark hill before a light sky, its ridge level at y = 150, with a post in front of it. */
async function hill(): Promise<Buffer> {
  const data = Buffer.alloc(3 * WIDTH * HEIGHT);
  const grain = noise(3, 6);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    const level = (Math.abs(x - 210) < 14 && y > 100 && y < 200 ? 110 : y < 150 ? 210 : 60) + grain();
    data.set([level, level, level], 3 * i);
  }
  return sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .png()
    .toBuffer();
}

const lines = (page: Page) => page.getByRole('group', { name: 'Run-on lines' });

async function postMarked(page: Page): Promise<Bench> {
  const bench = await openFile(page, 'hill.png', await hill());
  await bench.lasso([210, 150], 62);
  await bench.choose('Clear');
  await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();
  await lines(page).getByLabel('Show them on the photo').click();
  await expect(lines(page).getByRole('switch', { name: 'Line 1' })).toBeChecked();
  return bench;
}

/** The grey at a photo point of what the canvas shows. */
async function shownAt(bench: Bench, point: PhotoPoint): Promise<number> {
  const [x, y] = await bench.screenPoint(point);
  const png = await bench.page.screenshot({ clip: { x: x - 1, y: y - 1, width: 3, height: 3 } });
  const { channels } = await sharp(png).removeAlpha().stats();
  return channels[1]!.mean;
}

test('the ridge behind a post is found and shown before anything is made; it is switched off and taken back', async ({
  page,
}) => {
  const bench = await postMarked(page);
  const section = lines(page);
  await expect(section.getByText(/^\d found$/)).toBeVisible();
  // Beside the line itself, where the post stood before the hill.
  await expect.poll(() => shownAt(bench, [206, 153])).toBeLessThan(85);
  await section.getByRole('switch', { name: 'Line 1' }).click();
  await expect(section.getByText('Set by hand')).toBeVisible();
  await expect.poll(() => shownAt(bench, [206, 153])).toBeGreaterThan(95);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(section.getByText(/^\d found$/)).toBeVisible();
});

test('a ridge is redrawn higher by hand, and the place is rebuilt to it', async ({ page }) => {
  const bench = await postMarked(page);
  const section = lines(page);
  await section.getByRole('switch', { name: 'Line 1' }).click();
  await section.getByRole('button', { name: 'Draw a line' }).click();
  await bench.drag([142, 150], [160, 148], [180, 135], [210, 118], [240, 135], [260, 148], [278, 150]);
  await expect(section.getByRole('button', { name: 'Change line 2' })).toHaveAttribute('aria-expanded', 'true');
  await bench.makeTakes();
  await bench.use();
  const rgb = await rgbOf(await bench.deliverPng());
  const at = (x: number, y: number): number => rgb[3 * (y * WIDTH + x) + 1]!;
  expect(at(210, 130)).toBeLessThan(100);
  expect(at(210, 104)).toBeGreaterThan(170);
  expect(at(210, 185)).toBeLessThan(100);
});

test('a line is dragged by its end, and its points are moved and taken out by keys', async ({ page }) => {
  const bench = await postMarked(page);
  const section = lines(page);
  await section.getByRole('button', { name: 'Change line 1' }).click();
  await section.getByRole('button', { name: 'Add a point' }).click();
  const points = section.getByRole('group', { name: /^Points of line 1/ }).getByRole('button');
  await expect(points).toHaveCount(3);
  await points.nth(1).focus();
  for (let k = 0; k < 2; k++) await page.keyboard.press('Shift+ArrowDown');
  // The ridge dips where the point went: sky comes down to it.
  await expect.poll(() => shownAt(bench, [210, 187])).toBeGreaterThan(150);
  await points.nth(1).focus();
  await page.keyboard.press('Delete');
  await expect(points).toHaveCount(2);
  await section.getByRole('button', { name: 'Back to those found' }).click();
  await expect(section.getByText(/^\d found$/)).toBeVisible();
  await expect.poll(() => shownAt(bench, [206, 153])).toBeLessThan(85);
  await bench.drag([148, 150], [238, 150]);
  await expect(section.getByText('Set by hand')).toBeVisible();
  // It ends inside the mark now: before that, the post is as it was.
  await expect.poll(() => shownAt(bench, [206, 153])).toBeGreaterThan(95);
});
