import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { Bench, downloadsInsteadOfDialogs } from '../support/bench.ts';
import {
  DEMO_SPHERE,
  lookedAt,
  openPictureFile,
  smallSphere,
  tagged,
  toldByOthers,
  tripodLoop,
  workLooking,
} from '../support/spheres.ts';

const file = (path: string): Buffer => readFileSync(fileURLToPath(new URL(`../../demo/${path}`, import.meta.url)));
const raw = (picture: Buffer): Promise<Buffer> => sharp(picture).removeAlpha().raw().toBuffer();

test('the tripod and its shadow are cleared from the demo sphere, and a sphere is delivered', async ({ page }) => {
  test.setTimeout(240_000);
  await downloadsInsteadOfDialogs(page);
  await page.goto('/');
  await page.getByRole('button', { name: 'Open the demo picture The square' }).click();
  await page.waitForURL(/\/around$/);
  await lookedAt(page);
  await page.getByRole('button', { name: 'Straight down' }).click();
  await expect(page.getByText('Straight down, 90° wide')).toBeVisible();
  const bench = await workLooking(page, { pitch: -90, fov: 110 }, DEMO_SPHERE);
  await bench.drag(...tripodLoop(bench.photo, 110));
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await page.getByRole('button', { name: 'Look elsewhere' }).click();
  await lookedAt(page);
  await expect(page.getByRole('region', { name: /sphere viewer/ })).toBeHidden();
  const delivered = await bench.deliverPng();
  await expect(page.getByRole('region', { name: /sphere viewer/ })).toHaveAttribute('data-state', 'ready');
  expect(toldByOthers(delivered, 'sphere.png')).toMatchObject({
    ImageWidth: 4096,
    ImageHeight: 2048,
    ProjectionType: 'equirectangular',
    FullPanoWidthPixels: 4096,
    CroppedAreaImageHeightPixels: 2048,
    CroppedAreaLeftPixels: 0,
  });
  const [before, after, truth] = await Promise.all([
    raw(file('public/demo/square-360.jpg')),
    raw(delivered),
    raw(file('truth/square-360_clean-plate.jpg')),
  ]);
  // Decoders differ by a level or two; more than that has been changed.
  let firstRow = 2048;
  let [darkBefore, darkAfter] = [0, 0];
  for (let i = 0; i < after.length; i++) {
    if (Math.abs(after[i]! - before[i]!) <= 4) continue;
    firstRow = Math.min(firstRow, Math.floor(i / (3 * 4096)));
    // What the tripod and its shadow leave darker than the empty floor.
    if (truth[i]! - before[i]! > 40) darkBefore++;
    if (truth[i]! - after[i]! > 40) darkAfter++;
  }
  expect(firstRow).toBeGreaterThan(1250);
  expect(darkAfter).toBeLessThan(0.5 * darkBefore);
});

test('a photo twice as wide as high is asked about; flat, a mark runs on past its side', async ({ page }) => {
  await downloadsInsteadOfDialogs(page);
  const sphere = await smallSphere();
  await openPictureFile(page, 'court.png', sphere);
  await expect(page.getByRole('alert')).toContainText('Is it a 360-degree picture?');
  await page.getByRole('button', { name: 'No, it is flat' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Frame', exact: true })).toBeVisible();
  // A change of mind.
  await page.getByRole('button', { name: 'Around', exact: true }).click();
  await lookedAt(page);
  await page.getByRole('button', { name: 'Flat sphere' }).click();
  await expect(page.getByRole('button', { name: 'Go on in a direct view' })).toBeDisabled();
  const flat = new Bench(page, { width: 800, height: 400 });
  await flat.drag([770, 160], [770, 240], [825, 240], [825, 160], [770, 160]);
  await page.getByRole('button', { name: 'Go on in a direct view' }).click();
  await page.waitForURL(/\/around$/);
  await expect(
    page.getByRole('region', { name: 'Direct view' }).getByText(/1(79|80)° to the (left|right)/),
  ).toBeVisible();
  await flat.makeTakes();
  await flat.use();
  const [before, after] = [await raw(sphere), await raw(await flat.deliverPng())];
  const changed = (column: number): boolean => {
    for (let y = 0; y < 400; y++) if (before[3 * (y * 800 + column)] !== after[3 * (y * 800 + column)]) return true;
    return false;
  };
  expect([0, 799, 10, 780].map(changed)).toEqual([true, true, true, true]);
  expect([120, 400, 600].map(changed)).toEqual([false, false, false]);
  // The red post is gone on both sides.
  for (const column of [2, 797]) {
    const at = 3 * (200 * 800 + column);
    expect(after[at]! - after[at + 1]!).toBeLessThan(60);
  }
});

test('a view with its draft outlives a reload, a step is reopened in its view, the sphere is levelled', async ({
  page,
}) => {
  await openPictureFile(page, 'court.png', await smallSphere());
  await page.getByRole('button', { name: 'Yes, look around' }).click();
  await lookedAt(page);
  const bench = await workLooking(page, { yaw: 180, fov: 90 });
  const { width, height } = bench.photo;
  await bench.lasso([width / 2, height / 2], width / 7);
  await page.reload();
  await expect(page.getByRole('region', { name: 'Direct view' }).getByText(/180° to the left, 90° wide/)).toBeVisible();
  await expect(bench.markLine).toContainText('% of the picture');
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await page.getByRole('button', { name: 'Look elsewhere' }).click();
  await lookedAt(page);
  await page.getByRole('slider', { name: 'Lean' }).fill('4');
  await expect(bench.steps).toHaveCount(2);
  await expect(bench.steps.last()).toContainText('Levelled by 0.0° and 4.0°');
  // Drawing does the same: a line along the horizon, which leans now.
  await page.getByRole('button', { name: 'Draw what should be level' }).click();
  await lookedAt(page);
  const box = (await page.getByRole('application').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x - 200, y + 30);
  await page.mouse.down();
  await page.mouse.move(x + 200, y - 30, { steps: 4 });
  await page.mouse.up();
  await expect(bench.steps.last()).not.toContainText('and 4.0°');
  await expect(bench.steps).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bench.steps.last()).toContainText('and 4.0°');
  await bench.steps
    .first()
    .getByRole('button', { name: /^Step 1/ })
    .click();
  await expect(page.getByRole('region', { name: 'Direct view' }).getByText(/180° to the left, 90° wide/)).toBeVisible();
  await expect(bench.takes.first()).toBeVisible();
});

test('keys, wheel and hand turn; straight down and the edges are one press away', async ({ page }) => {
  await openPictureFile(page, 'court.png', await smallSphere());
  await page.getByRole('button', { name: 'Yes, look around' }).click();
  await lookedAt(page);
  const sphere = page.getByRole('application');
  const told = page.getByRole('region', { name: 'Direction' }).getByRole('status');
  await sphere.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowUp');
  await expect(told).toHaveText('4° to the right, 4° up, 90° wide');
  await page.keyboard.press('+');
  await expect(told).toHaveText(/, 78° wide/);
  await sphere.hover();
  await page.mouse.wheel(0, 300);
  await expect(told).toHaveText(/, 106° wide/);
  const box = (await sphere.boundingBox())!;
  const before = await sphere.screenshot();
  await page.mouse.move(box.x + 200, box.y + 200);
  await page.mouse.down();
  await page.mouse.move(box.x + 300, box.y + 200, { steps: 5 });
  await page.mouse.up();
  await expect(told).toHaveText(/to the left/);
  expect((await sphere.screenshot()).equals(before)).toBe(false);
  await page.getByRole('button', { name: 'Where the edges meet' }).click();
  await expect(told).toHaveText(/^180° to the (left|right), \d+° wide/);
});

test('a part of a sphere is rebuilt up to the pole', async ({ page }) => {
  await downloadsInsteadOfDialogs(page);
  const whole = await smallSphere();
  const part = await sharp(whole).extract({ left: 0, top: 80, width: 800, height: 320 }).png().toBuffer();
  const tags = {
    ProjectionType: 'equirectangular',
    FullPanoWidthPixels: 800,
    FullPanoHeightPixels: 400,
    CroppedAreaImageWidthPixels: 800,
    CroppedAreaImageHeightPixels: 320,
    CroppedAreaLeftPixels: 0,
    CroppedAreaTopPixels: 80,
  };
  await openPictureFile(page, 'part.png', tagged(part, tags));
  await page.waitForURL(/\/around$/);
  await lookedAt(page);
  await page.getByRole('button', { name: 'Rebuild below' }).click();
  await expect(page.getByText('Nothing is missing below.')).toBeVisible();
  await page.getByRole('button', { name: 'Rebuild above' }).click();
  const bench = new Bench(page, { width: 800, height: 400 });
  await expect(bench.markLine).toContainText('% of the picture');
  await bench.makeTakes();
  await bench.use();
  const delivered = await bench.deliverPng();
  const { channels } = await sharp(delivered).stats();
  if (channels[3]) expect(channels[3].min).toBe(255);
  expect(toldByOthers(delivered, 'whole.png')).toMatchObject({ ImageHeight: 400, CroppedAreaTopPixels: 0 });
});

test('tags that do not fit are told in a sentence, and an address of a view that is none leads to the Bench', async ({
  page,
}) => {
  const picture = await sharp(await smallSphere())
    .resize(500, 300, { fit: 'fill' })
    .png()
    .toBuffer();
  await openPictureFile(page, 'odd.png', tagged(picture, { ProjectionType: 'cubemap', FullPanoWidthPixels: 9 }));
  await expect(page.getByRole('alert')).toContainText(
    'The sphere tags of "odd.png" are incomplete; it is opened as a flat picture.',
  );
  await page.getByRole('alert').getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await page.goto(`${page.url()}/around`);
  await page.waitForURL(/\/p\/[^/]+$/);
  await expect(page.getByRole('button', { name: 'Frame', exact: true })).toBeVisible();
});

test('a small planet and a direct view are delivered at the sizes they say', async ({ page }) => {
  await downloadsInsteadOfDialogs(page);
  await openPictureFile(page, 'court.png', await smallSphere());
  await page.getByRole('button', { name: 'Yes, look around' }).click();
  await page.getByRole('link', { name: 'Deliver' }).click();
  for (const [option, size] of [
    ['A small planet', '2048 x 2048 px'],
    ['A direct view', '1920 x 1080 px'],
  ] as const) {
    await page.getByRole('combobox', { name: 'What' }).click();
    await page.getByRole('option', { name: option }).click();
    await expect(page.getByText(new RegExp(`${size}, \\d`))).toBeVisible();
    const picture = page.getByRole('img', { name: /The finished picture/ });
    await expect
      .poll(() => picture.evaluate((img: HTMLImageElement) => `${img.naturalWidth} x ${img.naturalHeight} px`))
      .toBe(size);
  }
});
