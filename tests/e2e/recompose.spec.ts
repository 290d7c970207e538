import { expect, test } from '@playwright/test';
import { compareInBrowser, downloadsInsteadOfDialogs, openFile, rgbOf, smallScene } from '../support/bench.ts';

test.beforeEach(({ page }) => downloadsInsteadOfDialogs(page));

test('a disc painted over with the brush is cleared, and only there', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await page.keyboard.press('p');
  await expect(page.getByText('Brush size')).toBeVisible();
  for (let i = 0; i < 8; i++) await page.keyboard.press(']');
  await bench.drag([95, 110], [125, 110], [125, 130], [95, 130], [95, 110]);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  const { differing, box } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(differing).toBeGreaterThan(1000);
  // The brush is 78 px wide by now, around points from 95 to 125.
  expect(box.left).toBeGreaterThan(50);
  expect(box.right).toBeLessThan(170);
});

test('a mark is added to, taken away from, grown and smoothed', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  const area = async (): Promise<number> =>
    Number((await page.getByText(/px marked/).textContent())!.replace(/[^\d]/g, ''));
  await bench.lasso([110, 120], 40);
  const first = await area();
  await bench.lasso([280, 120], 30);
  await expect.poll(area).toBeGreaterThan(first * 1.4);
  const two = await area();
  await page.getByRole('button', { name: 'Subtract' }).click();
  await bench.drag([240, 80], [320, 80], [320, 160], [240, 160], [240, 80]);
  await expect.poll(area).toBeLessThan(two * 0.75);
  const before = await area();
  await page.getByRole('slider', { name: 'Grow' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(area).toBeGreaterThan(before * 1.15);
  await page.getByRole('button', { name: 'Smooth, feather, band' }).click();
  await page.getByRole('slider', { name: 'Smooth' }).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('5 px').first()).toBeVisible();
});

test('what a step cleared is brought back elsewhere, out of the picture before it', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  // A first step far from the disc, then the disc is cleared.
  for (const at of [
    [330, 60],
    [110, 120],
  ] as const) {
    await bench.lasso(at, 42);
    await bench.choose('Clear');
    await bench.makeTakes();
    await bench.use();
  }
  await bench.lasso([110, 120], 42);
  await bench.choose('Duplicate');
  await page.getByLabel('Taken out of').click();
  await page.getByRole('option', { name: /^After step 1: Cleared/ }).click();
  // The closing menu still covers the photo for a moment.
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0);
  await bench.drag([110, 120], [180, 120], [260, 120]);
  await bench.makeTakes();
  await bench.use();
  const png = await rgbOf(await bench.deliverPng());
  const redness = (x: number) => png[3 * (120 * 400 + x)]! - png[3 * (120 * 400 + x) + 1]!;
  expect(redness(260)).toBeGreaterThan(100);
  expect(redness(110)).toBeLessThan(40);
});

test('duplicate leaves the first one; a move changed into a duplicate keeps mark and place', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await bench.lasso([110, 120], 42);
  await bench.choose('Move');
  await bench.drag([110, 120], [180, 120], [270, 124]);
  await bench.makeTakes();
  await page.getByRole('button', { name: /^2 What happens/ }).click();
  await bench.choose('Duplicate');
  await expect(page.getByRole('button', { name: /Duplicate, 160 px right, 4 px down/ })).toBeVisible();
  await bench.makeTakes();
  await bench.use();
  const { box } = await compareInBrowser(page, scene, await bench.deliverPng());
  // Only the new place around (270, 124) has changed.
  expect(box.left).toBeGreaterThan(210);
  expect(box.right).toBeLessThan(330);
});

test('takes are chosen by digits, set aside, and another round brings new ones', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await bench.choose('Clear');
  await bench.makeTakes();
  const names = await bench.takes.allTextContents();
  expect(names.length).toBeGreaterThanOrEqual(2);
  await bench.takes.first().focus();
  await page.keyboard.press('2');
  await expect(bench.takes.nth(1)).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Set aside' }).click();
  await expect(page.getByRole('group', { name: 'Takes set aside' }).getByRole('button')).toHaveCount(1);
  await expect(bench.takes).toHaveCount(names.length - 1);
  await page.getByRole('button', { name: 'Another round' }).click();
  await expect(bench.progress).toBeVisible();
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  expect(await bench.takes.count()).toBeGreaterThan(names.length - 1);
});

test('steps are undone, redone, switched off, opened again and computed anew', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await bench.lasso([110, 120], 42);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await bench.lasso([300, 80], 24);
  await bench.makeTakes();
  await bench.use();

  await page.keyboard.press('Control+z');
  await expect(bench.steps).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(bench.steps).toHaveCount(2);

  await page.getByRole('switch', { name: 'Step 1, Clear, is on' }).click();
  await page.getByRole('switch', { name: 'Step 2, Clear, is on' }).click();
  const untouched = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(untouched.differing).toBe(0);
  await page.getByRole('link', { name: 'Back to the Bench' }).click();
  await page.getByRole('switch', { name: 'Step 1, Clear, is on' }).click();
  await page.getByRole('switch', { name: 'Step 2, Clear, is on' }).click();

  await page.getByRole('button', { name: /^Step 1: Cleared/ }).click();
  await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();
  await page.getByRole('button', { name: 'Closer' }).click();
  await expect(bench.progress).toBeVisible();
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  await page.getByRole('button', { name: 'Use this take in its step' }).click();
  await expect(bench.steps).toHaveCount(2);
  await expect(page.getByText('Computing')).toHaveCount(0);
  const { differing, box } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(differing).toBeGreaterThan(2000);
  expect(box.right).toBeGreaterThan(290);
});

test('the original is held up by key and by button; the split has a divider that keys move', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await page.mouse.move(5, 400);
  const look = (): Promise<Buffer> => bench.canvas.screenshot();
  const now = await look();
  await page.keyboard.down('o');
  await expect.poll(async () => (await look()).equals(now)).toBe(false);
  const original = await look();
  await page.keyboard.up('o');
  await expect.poll(async () => (await look()).equals(now)).toBe(true);
  await page.getByRole('button', { name: 'Original' }).hover();
  await page.mouse.down();
  await expect.poll(async () => (await look()).equals(original)).toBe(true);
  await page.mouse.up();
  await page.keyboard.press('s');
  const divider = page.getByRole('slider', { name: /Divider between the original/ });
  await divider.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(divider).toHaveAttribute('aria-valuenow', '48');
});

test('the whole path works by keyboard alone', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.canvas.focus();
  await page.keyboard.press('p');
  for (let i = 0; i < 14; i++) await page.keyboard.press(']');
  await page.keyboard.press('k');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(bench.markLine).toContainText('% of the picture');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Lasso' }).focus();
  for (let i = 0; i < 30; i++) {
    await page.keyboard.press('Tab');
    if (await page.evaluate(() => document.activeElement?.getAttribute('value') === 'clear')) break;
  }
  await page.keyboard.press('Enter');
  await page.keyboard.press('t');
  await expect(bench.takes.first()).toBeVisible({ timeout: 60_000 });
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  await page.keyboard.press('u');
  await expect(bench.steps).toHaveCount(1);
});

test('a subject is nudged by the arrow keys, one gesture to one undo', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await bench.choose('Move');
  await bench.canvas.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('button', { name: /Move, 3 px right, 20 px down/ })).toBeVisible();
});

test('donors are drawn, a plane is added, moved and switched off; takes follow', async ({ page }) => {
  const bench = await openFile(page, 'disc.png', await smallScene());
  await bench.lasso([110, 120], 44);
  await bench.choose('Clear');
  await bench.makeTakes();
  await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();

  const planes = page.getByRole('group', { name: 'Planes' });
  await planes.getByRole('button', { name: 'Add a plane' }).click();
  await expect(planes).toContainText('Set by hand');
  await expect(bench.takes.first()).toBeVisible({ timeout: 60_000 });
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  const corner = planes.getByRole('button', { name: 'Plane 1, first corner' });
  await corner.focus();
  await page.keyboard.press('ArrowLeft');
  await planes.getByRole('switch', { name: 'Plane 1' }).uncheck();
  await planes.getByRole('button', { name: 'Back to those found' }).click();
  await expect(planes.getByRole('button', { name: 'Back to those found' })).toBeHidden();

  const donors = page.getByRole('group', { name: 'Donors' });
  await donors.getByRole('button', { name: 'Draw donors' }).click();
  await bench.drag([220, 40], [380, 40], [380, 220], [220, 220]);
  await expect(donors).toContainText('Only from what is painted');
  await expect(bench.progress).toBeHidden({ timeout: 90_000 });
  await donors.getByRole('switch', { name: 'Show what was used' }).check();
  await donors.getByRole('button', { name: 'From all around' }).click();
  await expect(donors).toContainText('All around the mark');
});

test('closeness and light are seen before they are chosen, and a chosen one makes the takes anew', async ({ page }) => {
  const bench = await openFile(page, 'disc.png', await smallScene());
  await bench.lasso([110, 120], 44);
  await bench.choose('Clear');
  await bench.makeTakes();
  await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();
  const closer = page.getByRole('button', { name: 'Closeness: Closest' });
  const drawn = () =>
    closer.locator('canvas').evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(canvas.width / 2, canvas.height / 2, 1, 1);
      return data[3];
    });
  await expect.poll(drawn, { timeout: 60_000 }).toBe(255);
  await closer.click();
  await expect(closer).toHaveAttribute('aria-pressed', 'true');
  await expect(bench.takes.first()).toBeVisible({ timeout: 60_000 });
});

test('areas of one mark are cleared one by one, each with its own takes', async ({ page }) => {
  const bench = await openFile(page, 'disc.png', await smallScene());
  await bench.lasso([110, 120], 40);
  await bench.lasso([300, 120], 30);
  await page.getByRole('button', { name: 'One by one' }).click();
  await expect(page.getByText('1 more area waits')).toBeVisible();
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await expect(bench.markLine).toContainText('% of the picture');
  await bench.makeTakes();
  await bench.use();
  await expect(bench.steps).toHaveCount(2);
  await expect(bench.markLine).toContainText('Nothing yet');
});
