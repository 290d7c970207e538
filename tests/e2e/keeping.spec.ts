import { expect, test } from '@playwright/test';
import { Bench, openFile, smallScene } from '../support/bench.ts';

test('a killed tab loses neither step nor draft, takes included', async ({ page, context }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await bench.choose('Clear');
  await bench.makeTakes();
  await bench.use();
  await bench.lasso([300, 80], 24);
  await bench.choose('Move');
  await bench.drag([300, 80], [300, 150], [300, 180]);
  await bench.makeTakes();
  const takes = await bench.takes.count();
  const address = page.url();
  await page.waitForTimeout(400);
  const session = await context.newCDPSession(page);
  session.send('Page.crash').catch(() => undefined);
  await page.waitForEvent('crash');

  const again = await context.newPage();
  await again.goto(address);
  const restored = new Bench(again, bench.photo);
  await expect(restored.steps).toHaveCount(1);
  await expect(restored.markLine).toContainText('% of the picture');
  await expect(again.getByRole('button', { name: /Move, 100 px down/ })).toBeVisible();
  await expect(restored.takes).toHaveCount(takes);
  await again.keyboard.press('Control+z');
  await expect(again.getByRole('button', { name: 'Redo' })).toBeEnabled();
});

test('projects are renamed, duplicated, and deleted with undo', async ({ page }) => {
  const bench = await openFile(page, 'boards.png', await smallScene());
  await bench.lasso([110, 120], 42);
  await page.getByRole('textbox', { name: 'Project name' }).fill('Spring fair');
  await page.getByRole('textbox', { name: 'Project name' }).press('Enter');
  await page.getByRole('link', { name: 'Projects' }).click();
  await expect(page.getByRole('heading', { name: 'Spring fair' })).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate Spring fair' }).click();
  await expect(page.getByRole('heading', { name: 'Spring fair (copy)' })).toBeVisible();
  await page.getByRole('button', { name: 'Rename Spring fair (copy)' }).click();
  await page.getByRole('textbox', { name: 'New name' }).fill('Autumn fair');
  await page.getByRole('textbox', { name: 'New name' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Autumn fair' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete Autumn fair' }).click();
  await expect(page.getByRole('heading', { name: 'Autumn fair' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Open the project Autumn fair' }).click();
  await expect(new Bench(page, bench.photo).markLine).toContainText('% of the picture');
});

test('a project that is not there says so and leads back', async ({ page }) => {
  await page.goto('/p/nothing-here');
  await expect(page.getByText(/not in this browser any more/)).toBeVisible();
  await page.getByRole('link', { name: 'Projects' }).click();
  await expect(page.getByRole('button', { name: 'Open a photo' })).toBeVisible();
});
