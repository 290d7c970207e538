import { expect, test } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { compareInBrowser, downloadsInsteadOfDialogs, openDemo } from '../support/bench.ts';

const QUAY = { width: 2400, height: 1600 };
const original = () => readFile(new URL('../../demo/public/demo/quay.jpg', import.meta.url));

test('the jars of the quay are moved, kept over a reload and delivered; nothing else changes', async ({ page }) => {
  await downloadsInsteadOfDialogs(page);
  const bench = await openDemo(page, 'The quay', QUAY);
  await bench.drag(
    [740, 960],
    [820, 780],
    [1000, 770],
    [1060, 1010],
    [1240, 1020],
    [1240, 1290],
    [820, 1240],
    [740, 960],
  );
  await bench.choose('Move');
  await bench.drag([900, 1050], [1200, 1060], [1460, 1050]);
  await bench.makeTakes();
  expect(await bench.takes.count()).toBeGreaterThanOrEqual(3);
  await bench.use();

  await page.reload();
  await expect(bench.steps).toHaveCount(1);
  await expect(bench.steps.first()).toContainText('Moved 560 px right');

  const { sameSize, differing, box } = await compareInBrowser(page, await original(), await bench.deliverPng());
  expect(sameSize).toBe(true);
  expect(differing).toBeGreaterThan(50_000);
  // The old place begins at x = 740, the new one ends at 1240 + 560; both lie between y = 770 and 1290.
  expect(box.left).toBeGreaterThanOrEqual(735);
  expect(box.right).toBeLessThanOrEqual(1805);
  expect(box.top).toBeGreaterThanOrEqual(765);
  expect(box.bottom).toBeLessThanOrEqual(1295);
});

test('computing on the quay is cancelled at once, and works again afterwards', async ({ page }) => {
  const bench = await openDemo(page, 'The quay', QUAY);
  await bench.lasso([1000, 1000], 200);
  await bench.choose('Clear');
  await page.getByRole('button', { name: 'Make takes' }).click();
  await expect(page.getByText(/Matching patches, \d+ %/)).toBeVisible();
  const started = Date.now();
  await page.keyboard.press('Escape');
  await expect(bench.progress).toBeHidden();
  // Far sooner than a round of takes is done, on a busy machine and with the test driver's own delays, too.
  expect(Date.now() - started).toBeLessThan(3000);
  await expect(bench.steps).toHaveCount(0);
  await bench.makeTakes();
  await bench.use();
});

test('every demo picture opens', async ({ page }) => {
  const cards = page.getByRole('button', { name: /^Open the demo picture/ });
  await page.goto('/');
  await expect(cards).toHaveCount(7);
  for (let i = 0; i < 7; i++) {
    await page.goto('/');
    await cards.nth(i).click();
    await expect(page.getByRole('application')).toBeVisible();
  }
});
