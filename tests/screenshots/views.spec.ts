import { expect, test } from '@playwright/test';
import { fileURLToPath } from 'node:url';
import { openDemo, type PhotoPoint } from '../support/bench.ts';
import { DEMO_SPHERE, lookedAt, tripodLoop, workLooking } from '../support/spheres.ts';

const shot = (name: string): string => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url));

/** The jars, loosely. */
const LOOP: PhotoPoint[] = [
  [700, 1030],
  [720, 860],
  [820, 760],
  [1000, 770],
  [1060, 900],
  [1250, 1100],
  [1250, 1280],
  [1000, 1300],
  [760, 1260],
  [700, 1030],
];

test('the frame', async ({ page }) => {
  const bench = await openDemo(page, 'The house front', { width: 1600, height: 2400 });
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.getByRole('button', { name: 'Square up by its lines' }).click();
  await expect(page.getByText('Upright lines stand upright now.')).toBeVisible();
  await page.getByRole('button', { name: /^1 Frame/ }).click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('frame') });
  await page.getByRole('button', { name: 'Make takes' }).click();
  await expect(bench.progress).toBeVisible();
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('frame-takes') });
});

test('lines that run on', async ({ page }) => {
  const bench = await openDemo(page, 'The quay', { width: 2400, height: 1600 });
  await bench.lasso([1600, 1330], 170);
  await bench.choose('Clear');
  await page.getByRole('button', { name: /^1 Mark/ }).click();
  await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();
  const lines = page.getByRole('group', { name: 'Run-on lines' });
  await lines.getByLabel('Show them on the photo').click();
  await lines.getByRole('button', { name: 'Change line 1' }).click();
  await page.waitForTimeout(2000);
  await page.screenshot({ path: shot('bench-lines') });
});

test('text', async ({ page }) => {
  await openDemo(page, 'The heron', { width: 1600, height: 2400 });
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  await page.getByRole('textbox', { name: 'Text' }).fill('Port Amsel\nspring fair');
  await page.getByRole('combobox', { name: 'Typeface' }).click();
  await page.getByRole('option', { name: 'Lora italic' }).click();
  await page.getByRole('slider', { name: 'Size' }).fill('150');
  await page.getByRole('group', { name: 'Place' }).getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('group', { name: 'Lines' }).getByRole('button', { name: 'Centre' }).click();
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('text') });
});

test('stitching', async ({ page }) => {
  await page.goto('/stitch');
  await page.getByRole('button', { name: 'Try the lagoon frames' }).click();
  await expect(page.getByRole('img', { name: 'The panorama' })).toBeVisible({ timeout: 90_000 });
  await page.getByRole('button', { name: /^4 Seams/ }).click();
  await page.getByRole('switch', { name: 'Show the seams' }).check();
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('stitch') });
});

test('around', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the demo picture The square' }).click();
  await page.waitForURL(/\/around$/);
  await lookedAt(page);
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('around') });
  const bench = await workLooking(page, { pitch: -90, fov: 110 }, DEMO_SPHERE);
  await bench.drag(...tripodLoop(bench.photo, 110));
  await bench.choose('Clear');
  await bench.makeTakes();
  await page.waitForTimeout(800);
  await page.screenshot({ path: shot('around-takes') });
});

test('the main views', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByText('The glaze table')).toBeVisible();
  const bench = await openDemo(page, 'The quay', { width: 2400, height: 1600 });
  await page.getByRole('button', { name: 'Subject', exact: true }).click();
  await bench.drag(...LOOP);
  await expect(bench.markLine).toContainText('% of the picture', { timeout: 20_000 });
  const marked = await bench.markLine.textContent();
  await page.getByRole('button', { name: 'Add its shadow' }).click();
  await expect(bench.markLine).not.toHaveText(marked!, { timeout: 20_000 });
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
  await page.waitForTimeout(45_000);
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
