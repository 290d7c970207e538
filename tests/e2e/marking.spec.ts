import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { noise } from '../support/pictures.ts';
import {
  compareInBrowser,
  downloadsInsteadOfDialogs,
  openFile,
  rgbOf,
  smallScene,
  type Bench,
  type PhotoPoint,
} from '../support/bench.ts';

test.beforeEach(({ page }) => downloadsInsteadOfDialogs(page));

const open = async (page: Page): Promise<Bench> => openFile(page, 'boards.png', await smallScene());
const areaOf = async (page: Page): Promise<number> =>
  Number((await page.getByText(/px marked/).textContent())!.replace(/[^\d]/g, ''));
const tool = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
const near = (value: number, wanted: number, share: number): boolean => Math.abs(value / wanted - 1) < share;

test('box, ellipse and corners mark what they enclose; both held keys keep what is in both', async ({ page }) => {
  const bench = await open(page);
  await tool(page, 'Box');
  await bench.drag([40, 60], [140, 160]);
  await expect.poll(async () => near(await areaOf(page), 10_000, 0.04)).toBe(true);
  await tool(page, 'Ellipse');
  await tool(page, 'New');
  await bench.drag([40, 60], [140, 160]);
  await expect.poll(async () => near(await areaOf(page), Math.PI * 2500, 0.04)).toBe(true);
  await tool(page, 'Corners');
  const corners: PhotoPoint[] = [
    [200, 60],
    [300, 60],
    [300, 160],
    [201, 61],
  ];
  for (const corner of corners) {
    const [x, y] = await bench.screenPoint(corner);
    await page.mouse.click(x, y);
  }
  await expect.poll(async () => near(await areaOf(page), 5000, 0.06)).toBe(true);
  await tool(page, 'Box');
  await page.keyboard.down('Shift');
  await page.keyboard.down('Alt');
  await bench.drag([250, 40], [320, 200]);
  await page.keyboard.up('Alt');
  await page.keyboard.up('Shift');
  // Of the triangle right of x = 250 that is left.
  await expect.poll(async () => near(await areaOf(page), 3750, 0.08)).toBe(true);
  await page.getByRole('button', { name: 'Invert' }).click();
  await expect.poll(async () => near(await areaOf(page), 400 * 260 - 3750, 0.02)).toBe(true);
});

test('along edges, a few points around a thing mark it whole; Backspace takes one back, Enter closes', async ({
  page,
}) => {
  const bench = await open(page);
  await tool(page, 'Along edges');
  const touch = async (point: PhotoPoint): Promise<void> => {
    const [x, y] = await bench.screenPoint(point);
    await page.mouse.click(x, y);
  };
  // The disc lies around (110, 120), 26 px in radius; points are set a little beside its edge.
  for (const point of [
    [138, 120],
    [110, 148],
    [83, 119],
    [30, 40],
  ] as const) {
    await touch(point);
  }
  await page.keyboard.press('Backspace');
  await touch([111, 92]);
  await page.keyboard.press('Enter');
  await expect.poll(async () => near(await areaOf(page), Math.PI * 26 ** 2, 0.08)).toBe(true);
});

test('along edges, points far from each other and beside the photo still close to a mark', async ({ page }) => {
  const bench = await open(page);
  await tool(page, 'Along edges');
  // All around the photo; between them the outline may cling to boards.
  for (const point of [
    [-60, -40],
    [460, -40],
    [460, 300],
    [-60, 300],
  ] as const) {
    const [x, y] = await bench.screenPoint(point);
    await page.mouse.click(x, y);
  }
  await page.keyboard.press('Enter');
  await expect.poll(() => areaOf(page)).toBeGreaterThan(0.5 * 400 * 260);
});

test('a touched colour is marked, with the tolerance that is set', async ({ page }) => {
  const bench = await open(page);
  await tool(page, 'Colour');
  const [x, y] = await bench.screenPoint([110, 120]);
  await page.mouse.click(x, y);
  await expect.poll(async () => near(await areaOf(page), Math.PI * 26 ** 2, 0.1)).toBe(true);
});

test('the subject in a loose loop is found, with some slack', async ({ page }) => {
  const bench = await open(page);
  await tool(page, 'Subject');
  await bench.drag([70, 120], [80, 80], [140, 80], [155, 120], [140, 160], [80, 165], [70, 120]);
  // The disc grown by 4 px.
  await expect.poll(async () => near(await areaOf(page), Math.PI * 30 ** 2, 0.12), { timeout: 20_000 }).toBe(true);
});

test('a subject’s reflection joins the mark and is moved along with it', async ({ page }) => {
  // A red post in still water, mirrored below its foot at half strength.
  const [width, height] = [400, 260];
  const data = Buffer.alloc(3 * width * height);
  const grain = noise(3, 6);
  const isPost = (x: number, y: number) => x >= 90 && x < 122 && y >= 60 && y < 130;
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const g = grain();
    const water = [100 + g, 125 + g, 140 + g];
    const mirrored = y >= 130 && isPost(x, 259 - y) ? 0.5 : 0;
    const shown = water.map((value, c) => (1 - mirrored) * value + mirrored * [190, 60, 50][c]!);
    data.set(isPost(x, y) ? [190 + g, 60 + g, 50 + g] : shown, 3 * i);
  }
  const file = await sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
  const bench = await openFile(page, 'post.png', file);
  await bench.drag([76, 50], [136, 50], [138, 136], [76, 136], [74, 52]);
  await expect(bench.markLine).toContainText('% of the picture');
  const before = await areaOf(page);
  await page.getByRole('button', { name: 'Add its reflection' }).click();
  await expect.poll(() => areaOf(page), { timeout: 20_000 }).toBeGreaterThan(before + 0.5 * 32 * 70);
  await bench.choose('Move');
  await bench.drag([106, 95], [266, 95]);
  await bench.makeTakes();
  await bench.use();
  const png = await rgbOf(await bench.deliverPng());
  const warmth = (x: number, y: number) => png[3 * (y * width + x)]! - png[3 * (y * width + x) + 2]!;
  expect(warmth(266, 100)).toBeGreaterThan(100);
  expect(warmth(266, 165)).toBeGreaterThan(20);
  expect(warmth(106, 100)).toBeLessThan(0);
  expect(warmth(106, 165)).toBeLessThan(0);
});

test('a mark is kept by name and brought back after it was dropped and the page reloaded', async ({ page }) => {
  const bench = await open(page);
  await bench.lasso([110, 120], 40);
  const area = await areaOf(page);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByLabel('Keep this mark as').fill('The disc');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Drop the mark' }).click();
  await expect(page.getByRole('button', { name: 'The disc' })).toBeVisible();
  await page.waitForTimeout(600);
  await page.reload();
  await page.getByRole('button', { name: 'The disc' }).click();
  await expect.poll(() => areaOf(page)).toBe(area);
});

test('what is protected stays as it is under a cleared mark', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await bench.lasso([110, 120], 42);
  await page.getByRole('combobox', { name: 'Draw as' }).click();
  await page.getByRole('option', { name: /^Protected/ }).click();
  await tool(page, 'Box');
  await bench.drag([60, 60], [110, 180]);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  const { box } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(box.left).toBeGreaterThanOrEqual(109);
});

test('donors that are little to rebuild from are told, as what was painted', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await page.getByRole('combobox', { name: 'Draw as' }).click();
  await page.getByRole('option', { name: /^Donors/ }).click();
  await tool(page, 'Box');
  await bench.drag([190, 60], [225, 95]);
  await bench.choose('Clear');
  await bench.makeTakes();
  await expect(page.getByRole('alert').filter({ hasText: /painted as donors is little/ })).toBeVisible();
});

test('a stroke is cleared when the pen is lifted, as a step that undo takes back', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  const combining = page.getByRole('group', { name: 'What you draw next' });
  await expect(combining).toBeVisible();
  await tool(page, 'Stroke away');
  // It joins no mark, so there is nothing to combine.
  await expect(combining).toBeHidden();
  for (let i = 0; i < 12; i++) await page.keyboard.press(']');
  await bench.drag([100, 120], [120, 120]);
  await expect(bench.steps).toHaveCount(1);
  await expect(bench.steps.first()).toContainText('Stroked away');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bench.steps).toHaveCount(0);
  await page.getByRole('button', { name: 'Redo' }).click();
  const { differing } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(differing).toBeGreaterThan(1500);
});

test('borrow remakes the mark from where it is dragged to', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await bench.lasso([110, 120], 40);
  await bench.choose('Borrow');
  await expect(page.getByText('Drag from the mark to the place').last()).toBeVisible();
  await bench.drag([110, 120], [180, 120], [254, 120]);
  await bench.makeTakes();
  await expect(bench.takes.first()).toContainText('as it lies');
  await bench.use();
  await expect(bench.steps.first()).toContainText('Borrowed from 144 px right');
  const { box } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(box.left).toBeGreaterThan(65);
  expect(box.right).toBeLessThan(155);
});

test('borrow is shifted to where the boards run on, first of its takes', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 40);
  await bench.choose('Borrow');
  // Eight px too low: boards are 18 px wide.
  await bench.drag([110, 120], [180, 125], [260, 128]);
  await bench.makeTakes();
  await expect(bench.takes.first()).toContainText('fitted in');
  await bench.use();
  const png = await rgbOf(await bench.deliverPng());
  const level = (y: number) => png[3 * (y * 400 + 110)]!;
  for (const joint of [109, 127]) expect(level(joint)).toBeLessThan(100);
  for (const board of [100, 118, 136]) expect(level(board)).toBeGreaterThan(130);
});

test('lengthen pulls the end of a board further', async ({ page }) => {
  const scene = await smallScene();
  const bench = await openFile(page, 'boards.png', scene);
  await tool(page, 'Box');
  await bench.drag([70, 80], [150, 160]);
  await bench.choose('Lengthen');
  await bench.drag([110, 120], [160, 120], [210, 120]);
  await bench.makeTakes();
  await bench.use();
  await expect(bench.steps.first()).toContainText('Lengthened by 100 px right');
  const { box } = await compareInBrowser(page, scene, await bench.deliverPng());
  expect(box.right).toBeGreaterThan(230);
  expect(box.right).toBeLessThan(275);
});

test('a part of a take is refined on its own, after the take was used', async ({ page }) => {
  const bench = await open(page);
  await bench.lasso([110, 120], 42);
  await bench.choose('Clear');
  await bench.makeTakes();
  await page.getByRole('button', { name: 'Use it and refine a part' }).click();
  await expect(bench.steps).toHaveCount(1);
  await bench.drag([100, 110], [120, 115]);
  await bench.makeTakes();
  await bench.use();
  await expect(bench.steps.nth(1)).toContainText('Refined');
});

test('sizes follow the ground, and a placed piece opens its step again by a double click', async ({ page }) => {
  const bench = await open(page);
  await bench.lasso([110, 120], 42);
  await bench.choose('Move');
  await page.getByText('Size and shadow follow the ground').click();
  await expect(page.getByRole('switch', { name: 'Size and shadow follow the ground' })).toBeChecked();
  await bench.drag([110, 120], [200, 140], [280, 160]);
  // Nearer by 40 px below a horizon above it: larger.
  await expect(page.getByRole('button', { name: /^2 What happens.*at 1[3-9]\d %/ })).toBeVisible();
  await bench.makeTakes();
  await bench.use();
  await page.waitForTimeout(500);
  const [x, y] = await bench.screenPoint([282, 160]);
  await page.mouse.dblclick(x, y);
  await expect(page.getByRole('button', { name: 'Use this take in its step' })).toBeVisible();
});

test('corners are set by keys alone: Enter sets one, Backspace takes it back, Enter on the first closes', async ({
  page,
}) => {
  const bench = await open(page);
  await page.keyboard.press('c');
  await bench.canvas.focus();
  await page.keyboard.press('k');
  const move = async (key: string, times: number): Promise<void> => {
    for (let i = 0; i < times; i++) await page.keyboard.press(`Shift+${key}`);
  };
  await page.keyboard.press('Enter');
  await move('ArrowRight', 4);
  await page.keyboard.press('Enter');
  await move('ArrowUp', 2);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Backspace');
  await move('ArrowUp', 2);
  await page.keyboard.press('Enter');
  await move('ArrowDown', 4);
  await move('ArrowLeft', 4);
  await page.keyboard.press('Enter');
  // A right triangle of four steps of 24 screen px to a side.
  const [left] = await bench.screenPoint([0, 0]);
  const [right] = await bench.screenPoint([100, 0]);
  const side = (4 * 24 * 100) / (right - left);
  await expect.poll(async () => near(await areaOf(page), side ** 2 / 2, 0.06)).toBe(true);
});
