import { expect, test } from '@playwright/test';
import { fileURLToPath } from 'node:url';
import { openDemo, type PhotoPoint } from '../support/bench.ts';

const shot = (name: string): string => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url));

/** The jars with their shadow, loosely. */
const LOOP: PhotoPoint[] = [
  [745, 1010],
  [790, 860],
  [815, 785],
  [900, 770],
  [1000, 785],
  [1010, 880],
  [1055, 930],
  [1050, 1015],
  [1180, 1010],
  [1235, 1100],
  [1220, 1185],
  [1500, 1235],
  [1785, 1325],
  [1790, 1395],
  [1500, 1388],
  [1180, 1350],
  [830, 1235],
  [770, 1130],
];

test('the main views', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('The glaze table')).toBeVisible();
  const bench = await openDemo(page, 'The quay', { width: 2400, height: 1600 });
  await bench.drag(...LOOP);
  await expect(bench.markLine).toContainText('% of the picture');
  await bench.choose('Move');
  await page.mouse.move(300, 720);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: shot('bench-mark') });
  await bench.drag([900, 1050], [1200, 1055], [1460, 1050]);
  await bench.makeTakes();
  await page.mouse.move(300, 720);
  await page.screenshot({ path: shot('bench-takes') });
  await page.getByRole('button', { name: /How it is rebuilt/ }).click();
  await page.getByText('Show them on the photo').click();
  await page.getByText('Show what was used').click();
  // The samples are made while nothing else is.
  await page.waitForTimeout(20_000);
  await page.screenshot({ path: shot('bench-rebuild') });
  await page.getByText('Show them on the photo').click();
  await page.getByText('Show what was used').click();
  await bench.use();
  await page.waitForTimeout(2500);
  await page.getByRole('button', { name: 'Split' }).click();
  await page.screenshot({ path: shot('bench-split') });
  await page.getByRole('link', { name: 'Deliver' }).click();
  await expect(page.getByRole('button', { name: 'Save the picture' })).toBeEnabled();
  await page.waitForTimeout(500);
  await page.screenshot({ path: shot('deliver') });
  await page.getByRole('link', { name: 'Back to the Bench' }).click();
  await page.getByRole('link', { name: 'Projects' }).click();
  await expect(page.getByRole('heading', { name: 'quay', exact: true })).toBeVisible();
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('projects') });
});
