import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { openFile, smallScene } from '../support/bench.ts';
import { halvedDemo } from '../support/frames.ts';
import { lookedAt, openPictureFile, smallSphere, workLooking } from '../support/spheres.ts';

/** Serious faults of what is shown; in the second theme of its colours alone, as all else is the same. */
async function violations(page: Page, theme = 'Paper'): Promise<string[]> {
  // Half faded in or out, anything lacks contrast.
  await page.evaluate(() => Promise.allSettled(document.getAnimations().map((animation) => animation.finished)));
  // No view holds a frame of another origin, for which the usual way opens a page of its own each time.
  const axe = new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode();
  const { violations: found } = await (theme === 'Paper' ? axe : axe.withRules(['color-contrast'])).analyze();
  return found
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html).join(' ')}`);
}

for (const theme of ['Paper', 'Dim room']) {
  test(`no serious violation on any view (${theme})`, async ({ page }) => {
    await page.goto('/');
    await page.getByRole('button', { name: 'View' }).click();
    await page.getByRole('menuitemradio', { name: theme }).click();
    await expect(page.getByRole('menuitemradio', { name: theme })).toHaveAttribute('aria-checked', 'true');
    expect(await violations(page, theme)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('menu')).toBeHidden();
    expect(await violations(page, theme)).toEqual([]);

    const bench = await openFile(page, 'boards.png', await smallScene());
    expect(await violations(page, theme)).toEqual([]);
    await bench.lasso([110, 120], 42);
    await bench.choose('Move');
    await page.getByRole('button', { name: 'Size, turn, mirror' }).click();
    await page.getByRole('button', { name: /^3 How it is rebuilt/ }).click();
    expect(await violations(page, theme)).toEqual([]);
    await bench.choose('Clear');
    await bench.makeTakes();
    expect(await violations(page, theme)).toEqual([]);
    await bench.use();
    await expect(bench.steps).toHaveCount(1);
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('button', { name: 'Keys' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    expect(await violations(page, theme)).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();

    await page.getByRole('link', { name: 'Deliver' }).click();
    await expect(page.getByRole('button', { name: 'Save the picture' })).toBeEnabled();
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('link', { name: 'Back to the Bench' }).click();
    await page.getByRole('button', { name: 'Frame', exact: true }).click();
    for (const part of [/^3 Margins/, /^4 Print/, /^5 To compose/])
      await page.getByRole('button', { name: part }).click();
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('button', { name: 'Stretch', exact: true }).click();
    await page.getByRole('button', { name: /^3 Where it stretches/ }).click();
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('button', { name: 'Text', exact: true }).click();
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('link', { name: 'Projects' }).click();
    await expect(page.getByRole('heading', { name: 'boards' })).toBeVisible();
    expect(await violations(page, theme)).toEqual([]);

    await openPictureFile(page, 'court.png', await smallSphere());
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('button', { name: 'Yes, look around' }).click();
    await lookedAt(page);
    expect(await violations(page, theme)).toEqual([]);
    await workLooking(page, { pitch: -90 });
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('button', { name: 'Flat sphere' }).click();
    expect(await violations(page, theme)).toEqual([]);
    await page.getByRole('link', { name: 'Deliver' }).click();
    await expect(page.getByRole('region', { name: /sphere viewer/ })).toHaveAttribute('data-state', 'ready');
    expect(await violations(page, theme)).toEqual([]);

    await page.goto('/');
    await page.getByRole('link', { name: 'Stitch frames' }).click();
    expect(await violations(page, theme)).toEqual([]);
    if (theme === 'Paper') return;
    const frames = await Promise.all([1, 2].map((k) => halvedDemo(`lagoon-sweep_${k}.jpg`)));
    await page.getByLabel('Add frames').setInputFiles(frames);
    await expect(page.getByRole('img', { name: 'The panorama' })).toBeVisible({ timeout: 60_000 });
    await page.getByRole('button', { name: /^4 Seams/ }).click();
    expect(await violations(page, theme)).toEqual([]);
  });
}
