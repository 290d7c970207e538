import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { INSECURE_HOST } from '../support/browser.ts';
import { Bench, compareInBrowser, downloadsInsteadOfDialogs, openFile, smallScene } from '../support/bench.ts';

// A picture that lacks a step is never taken for the finished one, and nothing waits without an end.

test.beforeEach(({ page }) => downloadsInsteadOfDialogs(page));

const job = (page: Page, name: string): Promise<void> => page.getByRole('button', { name, exact: true }).click();

/** Something cleared, a frame wider by 160 px, and something cleared in its new margin. */
async function threeSteps(page: Page): Promise<Bench> {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 36);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await job(page, 'Frame');
  await page.getByLabel('Width, px').fill('560');
  await page.getByLabel('Width, px').press('Enter');
  await bench.makeTakes();
  await bench.use();
  const wide = { width: 560, height: 260 };
  const framed = Object.assign(Object.create(bench) as Bench, { photo: wide });
  await page.getByRole('button', { name: 'Fit' }).click();
  await framed.lasso([530, 130], 20);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  return bench;
}

test('a step that can’t be made is named, nothing is delivered without it, and mending it delivers all', async ({
  page,
}) => {
  const bench = await threeSteps(page);
  await bench.steps.nth(1).getByRole('switch').click();
  const failing = bench.steps.nth(2).getByRole('alert');
  await expect(failing).toContainText('Can’t be made: Nothing is marked inside the picture');
  const refusesToDeliver = async (): Promise<void> => {
    await page.getByRole('link', { name: 'Deliver' }).click();
    await expect(page.getByRole('alert')).toContainText('Step 3 (Cleared) can’t be made');
    await expect(page.getByRole('button', { name: 'Save the picture' })).toBeDisabled();
    await expect(page.getByRole('button', { name: 'Save the steps as a recipe' })).toBeDisabled();
    await page.getByRole('link', { name: 'Back to the Bench' }).click();
  };
  await refusesToDeliver();
  await page.reload();
  await expect(failing).toBeVisible();
  // The picture before it is shown, with the first step.
  await expect(bench.steps.nth(2)).toContainText('Can’t be made');
  await refusesToDeliver();
  await bench.steps.nth(1).getByRole('switch').click();
  await expect(failing).toBeHidden();
  expect(await sharp(await bench.deliverPng()).metadata()).toMatchObject({ width: 560, height: 260 });
});

test('what is used and delivered at once is in the file', async ({ page }) => {
  const photo = await smallScene();
  const bench = await openFile(page, 'boards.png', photo);
  await job(page, 'Frame');
  await job(page, 'Text');
  await page.getByRole('textbox', { name: 'Text' }).fill('Kiln open');
  const use = page.getByRole('button', { name: 'Use this text' });
  await expect(use).toBeEnabled();
  // Faster than any hand: the page is left in the same turn.
  await page.evaluate(() => {
    const press = (text: string): void =>
      [...document.querySelectorAll<HTMLElement>('button, a')].find((each) => each.textContent === text)!.click();
    press('Use this text');
    press('Deliver');
  });
  await page.getByRole('button', { name: 'PNG' }).click();
  const save = page.getByRole('button', { name: 'Save the picture' });
  await expect(save).toBeEnabled();
  const download = page.waitForEvent('download');
  await save.click();
  const chunks: Buffer[] = [];
  for await (const chunk of await (await download).createReadStream()) chunks.push(chunk as Buffer);
  expect((await compareInBrowser(page, photo, Buffer.concat(chunks))).differing).toBeGreaterThan(100);
  await page.getByRole('link', { name: 'Back to the Bench' }).click();
  await expect(bench.steps).toHaveCount(1);
});

for (const { worker, told } of [
  { worker: 'picture', told: 'on Projects' },
  { worker: 'compute', told: 'on the Bench' },
]) {
  test(`a ${worker} worker that can’t be loaded is told ${told}, instead of waiting for ever`, async ({ page }) => {
    await page.route(new RegExp(`${worker}\\.worker`), (route) => route.abort());
    if (worker === 'picture') {
      await page.goto('/');
      const photo = { name: 'boards.png', mimeType: 'image/png', buffer: await smallScene() };
      await page.getByLabel('Open photos').setInputFiles(photo);
    } else {
      const bench = await openFile(page, 'boards.png', await smallScene());
      await bench.lasso([110, 120], 36);
      await bench.choose('Clear');
      await page.getByRole('button', { name: 'Make takes' }).click();
      await expect(bench.progress).toBeHidden();
    }
    await expect(page.getByRole('alert')).toContainText('The browser ended the computation');
  });
}

test('where the browser gives no shared memory and no hashes, a photo opens and something is cleared', async ({
  page,
  baseURL,
}) => {
  const address = new URL(baseURL!);
  address.hostname = INSECURE_HOST;
  await page.goto(address.href);
  expect(await page.evaluate(() => [crossOriginIsolated, isSecureContext])).toEqual([false, false]);
  const photo = { name: 'boards.png', mimeType: 'image/png', buffer: await smallScene() };
  await page.getByLabel('Open photos').setInputFiles(photo);
  await page.waitForURL(/\/p\/[^/]+$/);
  const bench = new Bench(page, { width: 400, height: 260 });
  await expect(bench.canvas).toBeVisible();
  await bench.lasso([110, 120], 36);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  expect((await compareInBrowser(page, photo.buffer, await bench.deliverPng())).differing).toBeGreaterThan(500);
});
