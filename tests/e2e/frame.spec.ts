import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { fitView, photoToScreen } from '../../src/app/features/bench/photo/viewport.ts';
import { inflate, type Rect } from '../../src/core/image/rect.ts';
import { downloadsInsteadOfDialogs, openFile, rgbOf, smallScene, type Bench } from '../support/bench.ts';

test.beforeEach(({ page }) => downloadsInsteadOfDialogs(page));

const PHOTO: Rect = { x: 0, y: 0, width: 400, height: 260 };

async function openFrame(page: Page): Promise<Bench> {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await expect(page.getByText('Drag the frame, or choose a ratio.')).toBeVisible();
  return bench;
}

/** Drags through points of the photo, while it is seen with room around it for its frame. */
async function dragInFrame(page: Page, bench: Bench, from: [number, number], ...to: [number, number][]): Promise<void> {
  const box = (await bench.canvas.boundingBox())!;
  const view = fitView(inflate(PHOTO, Math.round(0.07 * PHOTO.width)), box, 1);
  const at = ([x, y]: [number, number]): [number, number] => {
    const screen = photoToScreen(view, { x, y });
    return [box.x + screen.x, box.y + screen.y];
  };
  await page.mouse.move(...at(from));
  await page.mouse.down();
  for (const point of to) await page.mouse.move(...at(point), { steps: 6 });
  await page.mouse.up();
}

test('dragged past its edge the photo is carried on, and stays as it is inside', async ({ page }) => {
  const bench = await openFrame(page);
  await dragInFrame(page, bench, [400, 130], [424, 130]);
  await expect(page.getByLabel('Width, px')).toHaveValue(/^42[3-5]$/);
  const width = Number(await page.getByLabel('Width, px').inputValue());
  await bench.makeTakes();
  await bench.use();
  await expect(bench.steps.first()).toContainText(`Frame ${width} x 260 px`);
  const png = await bench.deliverPng();
  expect(await sharp(png).metadata()).toMatchObject({ width, height: 260 });
  const kept = await sharp(png).extract({ left: 0, top: 0, width: 396, height: 260 }).removeAlpha().raw().toBuffer();
  const photo = await sharp(await smallScene())
    .extract({ left: 0, top: 0, width: 396, height: 260 })
    .raw()
    .toBuffer();
  expect(kept.equals(photo)).toBe(true);
  await expect(page.getByRole('status').filter({ hasText: `${width} x 260 px` })).toBeVisible();
});

test('a ratio is reached by cutting without any rebuilding; undo brings the whole photo back', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: 'Cut to it' }).click();
  await page.getByRole('button', { name: '1:1', exact: true }).click();
  await expect(page.getByLabel('Width, px')).toHaveValue('260');
  await page.getByRole('button', { name: 'Use this frame' }).click();
  await expect(bench.steps).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bench.steps).toHaveCount(0);
  await page.getByRole('button', { name: 'Redo' }).click();
  expect(await sharp(await bench.deliverPng()).metadata()).toMatchObject({ width: 260, height: 260 });
});

test('a drawn line levels the photo, and its corners are cut off or kept', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: 'Draw lines to go by' }).click();
  await dragInFrame(page, bench, [60, 100], [340, 110]);
  await expect(page.getByText('One line drawn.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^2 Straight/ })).toContainText('turned by 2.0 degrees');
  await page.getByRole('button', { name: 'Cut off the corners' }).click();
  await expect(page.getByText('The photo fills this frame')).toBeHidden();
  await expect(page.getByRole('button', { name: /^3 Margins/ })).toContainText('None vacant');
  await page.getByRole('button', { name: 'Keep everything' }).click();
  await expect(page.getByRole('button', { name: /^3 Margins/ })).toContainText('Rebuilt');
  await page.getByRole('button', { name: 'As it was taken' }).click();
  await expect(page.getByRole('button', { name: /^2 Straight/ })).toContainText('As it was taken');
});

test('a mark waits while the frame is set, and what is cleared afterwards lies where it was marked', async ({
  page,
}) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 40);
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.getByRole('button', { name: 'Cut to it' }).click();
  await page.getByRole('button', { name: '1:1', exact: true }).click();
  await page.getByRole('button', { name: 'Use this frame' }).click();
  await expect(bench.steps).toHaveCount(1);
  await expect(bench.markLine).toContainText('% of the picture');
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  const image = await rgbOf(await bench.deliverPng());
  // The disc's middle, (110, 120) of the photo, is (40, 120) of the middle 260 px.
  const i = 3 * (120 * 260 + 40);
  expect(image[i]! - image[i + 1]!).toBeLessThan(60);
});

test('an opened frame is changed, and later steps stay where they are in the picture', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: 'Free room on the left' }).click();
  await page.getByRole('button', { name: /^3 Margins/ }).click();
  await page.getByRole('group', { name: 'Margins to rebuild' }).getByRole('button', { name: 'Left' }).click();
  await page.getByRole('button', { name: 'Use this frame' }).click();
  await expect(bench.steps).toHaveCount(1);
  await page.reload();
  await expect(bench.steps).toHaveCount(1);
  await bench.steps
    .first()
    .getByRole('button', { name: /Open it for change/ })
    .click();
  await expect(page.getByLabel('Width, px')).toHaveValue('571');
  await page.getByRole('button', { name: 'The whole photo again' }).click();
  await page.getByLabel('Width, px').fill('300');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Use this frame' }).click();
  expect(await sharp(await bench.deliverPng()).metadata()).toMatchObject({ width: 300, height: 260 });
});

test('what can’t be a frame is told and changes nothing', async ({ page }) => {
  const bench = await openFrame(page);
  const width = page.getByLabel('Width, px');
  await width.fill('0');
  await expect(page.getByText('From 1 to 30000 px.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(width).toHaveValue('400');
  await page.getByLabel('Own ratio, like 7:3').fill('0:3');
  await expect(page.getByText('Give two numbers like 7:3')).toBeVisible();
  await width.fill('29000');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Make takes' }).click();
  await expect(page.getByText(/too large for this photo; make it 0\.9 megapixels or smaller/)).toBeVisible();
  await expect(bench.steps).toHaveCount(0);
});

test('the new margins alone are delivered around a transparent middle', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByLabel('Height, px').fill('330');
  await page.keyboard.press('Enter');
  await bench.makeTakes();
  await bench.use();
  await page.getByRole('link', { name: 'Deliver' }).click();
  await page.getByLabel('Only the new margins (a plate)').check();
  await page.getByRole('button', { name: 'None', exact: true }).click();
  const save = page.getByRole('button', { name: 'Save the picture' });
  await expect(save).toBeEnabled();
  const download = page.waitForEvent('download');
  await save.click();
  const plate = sharp(await (await download).path());
  expect(await plate.metadata()).toMatchObject({ format: 'png', width: 400, height: 330 });
  const alpha = await plate.extractChannel(3).raw().toBuffer();
  const rowOf = (y: number) => alpha[y * 400 + 200];
  expect([rowOf(0), rowOf(34), rowOf(35), rowOf(294), rowOf(295), rowOf(329)]).toEqual([255, 255, 0, 0, 255, 255]);
});

test('stretched, the picture gains room while what is marked keeps its shape', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: 'Stretch', exact: true }).click();
  await page.getByRole('button', { name: 'Draw around it' }).click();
  const loop = Array.from({ length: 13 }, (_, k): [number, number] => [
    110 + 34 * Math.cos((k * Math.PI) / 6),
    120 + 34 * Math.sin((k * Math.PI) / 6),
  ]);
  await dragInFrame(page, bench, ...(loop as [[number, number], ...[number, number][]]));
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: /^2 What keeps its shape/ })).toContainText('Marked');
  await page.getByLabel('Width, px').fill('500');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Use the stretched picture' }).click();
  await expect(bench.steps).toHaveCount(1);
  const png = await bench.deliverPng();
  expect(await sharp(png).metadata()).toMatchObject({ width: 500, height: 260 });
  const image = await rgbOf(png);
  const reds = Array.from({ length: 500 }, (_, x) => 3 * (120 * 500 + x)).filter((i) => image[i]! - image[i + 1]! > 80);
  // The disc is 52 px wide.
  expect(Math.abs(reds.length - 52)).toBeLessThanOrEqual(2);
});

test('while an edge is dragged to stretch, the picture is already seen up to it', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: 'Stretch', exact: true }).click();
  const box = (await bench.canvas.boundingBox())!;
  const view = fitView(inflate(PHOTO, Math.round(0.07 * PHOTO.width)), box, 1);
  const at = (x: number, y: number) => {
    const screen = photoToScreen(view, { x, y });
    return { x: Math.round(box.x + screen.x), y: Math.round(box.y + screen.y) };
  };
  const [edge, to] = [at(400, 130), at(423, 130)];
  /** A strip between the old edge and the new one: boards are warm and striped, the surround neutral and even. */
  const { x, y } = at(408, 60);
  const warmth = async (): Promise<number> => {
    const strip = await page.screenshot({ clip: { x, y, width: 20, height: 60 } });
    const { channels } = await sharp(strip).stats();
    return channels[0]!.mean - channels[2]!.mean;
  };
  await page.mouse.move(edge.x, edge.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 8 });
  await expect.poll(warmth).toBeGreaterThan(15);
  await expect(page.getByLabel('Width, px')).toHaveValue('400');
  await page.mouse.up();
  await expect(page.getByLabel('Width, px')).toHaveValue(/^42[2-4]$/);
});

test('a print that is short of pixels is told, and the picture enlarged for it', async ({ page }) => {
  const bench = await openFrame(page);
  await page.getByRole('button', { name: /^4 Print/ }).click();
  await expect(page.getByText('That is 2400 x 3000 px. The frame falls short')).toBeVisible();
  await page.getByLabel('Wide').fill('4');
  await page.getByLabel('High').fill('2,6');
  await page.getByRole('button', { name: 'Enlarge to 1200 x 780 px' }).click();
  await expect(bench.steps.first()).toContainText('Enlarged to 1200 x 780 px');
  expect(await sharp(await bench.deliverPng()).metadata()).toMatchObject({ width: 1200, height: 780 });
});

test('a thing at the edge is pointed out, and left out of the donors; the eye’s way is shown', async ({ page }) => {
  const [width, height] = [400, 260];
  const scene = Buffer.alloc(3 * width * height, 150);
  for (let y = 100; y < 160; y++) for (let x = 370; x < width; x++) scene.set([190, 50, 40], 3 * (y * width + x));
  const png = await sharp(scene, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
  const bench = await openFile(page, 'plain.png', png);
  await page.getByRole('button', { name: 'Frame', exact: true }).click();
  await page.getByRole('button', { name: 'Free room on the right' }).click();
  await page.getByRole('button', { name: /^3 Margins/ }).click();
  await expect(page.getByText(/Something touches the right side/)).toBeVisible();
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByText(/Something touches the right side/)).toBeHidden();
  await page.getByRole('button', { name: /^5 To compose/ }).click();
  await page.getByLabel('Where the eye goes').check();
  await expect(page.getByText('1 is looked at first')).toBeVisible();
  await bench.makeTakes();
  await bench.use();
  const image = await rgbOf(await bench.deliverPng());
  const wide = image.length / 3 / height;
  let reds = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 410; x < wide; x++) if (image[3 * (y * wide + x)]! - image[3 * (y * wide + x) + 1]! > 60) reds++;
  }
  expect(reds).toBe(0);
});
