import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { Bench, downloadsInsteadOfDialogs } from '../support/bench.ts';
import { halvedDemo } from '../support/frames.ts';

const SWEEP = [3, 1, 5, 2, 4].map((k) => `lagoon-sweep_${k}.jpg`);

async function addFrames(page: Page, names: string[]): Promise<void> {
  await downloadsInsteadOfDialogs(page);
  await page.goto('/');
  await page.getByRole('link', { name: 'Stitch frames' }).click();
  await page.getByLabel('Add frames').setInputFiles(await Promise.all(names.map(halvedDemo)));
}
const panorama = (page: Page) => page.getByRole('img', { name: 'The panorama' });
const trayOf = (page: Page) => page.getByRole('navigation', { name: 'Frames' }).getByRole('listitem');

test('shuffled frames become a straight panorama without gaps, delivered', async ({ page }) => {
  test.setTimeout(240_000);
  await addFrames(page, [...SWEEP, 'quay.jpg']);
  await expect(page.getByRole('progressbar')).toBeVisible();
  await expect(panorama(page)).toBeVisible({ timeout: 90_000 });
  await expect(page.getByRole('button', { name: /^1 Frames/ })).toContainText('5 of 6 in place');
  // The tray tells the order that was found, and what is left out.
  const names = await trayOf(page).allTextContents();
  expect(names.slice(0, 5).map((text) => /sweep_(\d)/.exec(text)![1])).toEqual(['1', '2', '3', '4', '5']);
  expect(names[5]).toContain('quay.jpgLeft out');
  await expect(page.getByRole('button', { name: /^2 Projection/ })).toContainText('cylindrical');
  await page.getByRole('button', { name: 'Open on the Bench' }).click();
  await page.waitForURL(/\/p\//, { timeout: 90_000 });
  const bench = new Bench(page, { width: 0, height: 0 });
  await expect(bench.markLine).toContainText(/[5-8]\.\d % of the picture/);
  await page.getByRole('button', { name: 'Make takes' }).click();
  await expect(bench.takes.first()).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Use this take' }).click();
  await expect(bench.steps).toHaveCount(1);
  const image = sharp(await bench.deliverPng());
  const { width, height } = await image.metadata();
  expect(width! / height!).toBeGreaterThan(4);
  const { channels } = await image.stats();
  if (channels[3]) expect(channels[3].min).toBe(255);
});

test('two photos with nothing in common are told apart, and joined with the space between marked', async ({ page }) => {
  await addFrames(page, ['kilnyard.jpg', 'dunes-heron.jpg']);
  await expect(page.getByRole('alert')).toContainText('No two of these frames show the same thing', {
    timeout: 60_000,
  });
  await page.getByRole('button', { name: 'The other way round' }).click();
  await expect(page.getByText('dunes-heron.jpg, then kilnyard.jpg')).toBeVisible();
  await page.getByRole('button', { name: 'Join, and open on the Bench' }).click({ timeout: 60_000 });
  await page.waitForURL(/\/p\//, { timeout: 60_000 });
  await expect(new Bench(page, { width: 0, height: 0 }).markLine).toContainText('% of the picture');
});

test('level by a line, pull a frame in front, crop beyond the frames; undo leads back', async ({ page }) => {
  await addFrames(page, SWEEP.slice(0, 1).concat(SWEEP[3]!));
  await expect(panorama(page)).toBeVisible({ timeout: 60_000 });
  const cropLine = page.getByRole('button', { name: /^5 Crop/ });
  const whole = await cropLine.textContent();
  const box = (await panorama(page).boundingBox())!;
  const drag = async (from: [number, number], to: [number, number]): Promise<void> => {
    await page.mouse.move(box.x + box.width * from[0], box.y + box.height * from[1]);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * to[0], box.y + box.height * to[1], { steps: 6 });
    await page.mouse.up();
  };

  await drag([1, 1], [1.05, 1.1]);
  await expect(cropLine).not.toHaveText(whole!);
  await page.getByRole('button', { name: 'Without gaps' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(cropLine).toHaveText(whole!);

  await page.getByRole('button', { name: 'Draw a line' }).click();
  await drag([0.2, 0.4], [0.8, 0.5]);
  await expect(page.getByRole('button', { name: /^3 Level/ })).toContainText('By a line');
  await expect(cropLine).not.toHaveText(whole!);
  // What was chosen about the frames is still there after a reload.
  const turned = await cropLine.textContent();
  await page.reload();
  await expect(page.getByRole('button', { name: /^3 Level/ })).toContainText('By a line', { timeout: 60_000 });
  await expect(cropLine).toHaveText(turned!);
  await page.getByRole('button', { name: 'As it was' }).click();
  await expect(cropLine).toHaveText(whole!);

  await page.getByRole('button', { name: /^4 Seams/ }).click();
  await page.getByRole('button', { name: 'Frame 2 in front' }).click();
  await drag([0.4, 0.5], [0.6, 0.5]);
  await expect(page.getByRole('button', { name: /^4 Seams/ })).toContainText('1 by hand');
});

test('a broken file among the frames is told, nothing is lost; without it the others are stitched', async ({
  page,
}) => {
  await page.goto('/stitch');
  await page.getByLabel('Add frames').setInputFiles(await Promise.all([SWEEP[0]!, SWEEP[3]!].map(halvedDemo)));
  await page
    .getByLabel('Add frames')
    .setInputFiles([
      { name: 'torn.jpg', mimeType: 'image/jpeg', buffer: Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]) },
    ]);
  await expect(page.getByRole('alert')).toContainText('torn.jpg', { timeout: 60_000 });
  await expect(trayOf(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'Take out torn.jpg' }).click();
  await expect(panorama(page)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Start over' }).click();
  await expect(page.getByText('Drop frames here, in any order')).toBeVisible();
  await page.getByText('2 frames taken out.').locator('xpath=..').getByRole('button', { name: 'Undo' }).click();
  await expect(trayOf(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Look at the frames again' })).toBeVisible();
});
