import { expect, test } from '@playwright/test';
import { gzipSync } from 'node:zlib';

const MAX_FIRST_PAGE_KB = 250;

test('the first page weighs at most 250 kB, compressed', async ({ page }) => {
  const loaded: { url: string; bytes: number }[] = [];
  page.on('response', (response) => {
    if (/\.(jpg|png|webp)$/.test(response.url())) return;
    // What had to be looked up only is not sent again.
    const body = response.ok() ? response.body() : Promise.resolve(Buffer.alloc(0));
    loads.push(body.then((content) => void loaded.push({ url: response.url(), bytes: gzipSync(content).length })));
  });
  const loads: Promise<void>[] = [];
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Open a photo' })).toBeVisible();
  await page.waitForLoadState('networkidle');
  await Promise.all(loads);
  const whole = loaded.reduce((sum, { bytes }) => sum + bytes, 0) / 1000;
  expect(whole, JSON.stringify(loaded, null, 1)).toBeLessThanOrEqual(MAX_FIRST_PAGE_KB);
  expect(loaded.length).toBeGreaterThan(3);
});
