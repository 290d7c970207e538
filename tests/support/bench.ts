import { wholeOf } from '../../src/core/image/rect.ts';
import { expect, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import { noise } from './pictures.ts';
import { fitView, photoToScreen } from '../../src/app/features/bench/photo/viewport.ts';

export type PhotoPoint = readonly [x: number, y: number];

/** The Bench as a person uses it, in photo coordinates. The photo must lie as "Fit" puts it. */
export class Bench {
  constructor(
    readonly page: Page,
    readonly photo: { width: number; height: number },
  ) {}

  get canvas(): Locator {
    return this.page.getByRole('application');
  }

  get takes(): Locator {
    return this.page.getByRole('group', { name: 'Takes', exact: true }).getByRole('button');
  }

  get progress(): Locator {
    return this.page.getByRole('progressbar', { name: 'Share done' });
  }

  get steps(): Locator {
    return this.page.getByRole('navigation', { name: 'Steps' }).getByRole('listitem');
  }

  async screenPoint([x, y]: PhotoPoint): Promise<readonly [number, number]> {
    const box = (await this.canvas.boundingBox())!;
    const at = photoToScreen(fitView(wholeOf(this.photo), box, 1), { x, y });
    return [box.x + at.x, box.y + at.y];
  }

  /** One drag of the pointer through photo points. */
  async drag(...points: PhotoPoint[]): Promise<void> {
    await this.dragBy(5, points);
  }

  private async dragBy(steps: number, points: readonly PhotoPoint[]): Promise<void> {
    const [first, ...rest] = points;
    await this.page.mouse.move(...(await this.screenPoint(first!)));
    await this.page.mouse.down();
    for (const point of rest) await this.page.mouse.move(...(await this.screenPoint(point)), { steps });
    await this.page.mouse.up();
  }

  /** A loose loop around a circle. */
  async lasso([x, y]: PhotoPoint, radius: number): Promise<void> {
    const corners = Array.from({ length: 13 }, (_, i): PhotoPoint => {
      const angle = (i / 12) * 2 * Math.PI;
      return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
    });
    await this.dragBy(2, corners);
    await expect(this.markLine).toContainText('% of the picture');
  }

  get markLine(): Locator {
    return this.page.getByRole('button', { name: /^1 Mark/ });
  }

  async choose(what: 'Clear' | 'Move' | 'Duplicate' | 'Lengthen' | 'Borrow'): Promise<void> {
    await this.page.getByRole('button', { name: what, exact: true }).click();
  }

  async makeTakes(): Promise<void> {
    await this.page.getByRole('button', { name: 'Make takes' }).click();
    await expect(this.takes.first()).toBeVisible({ timeout: 60_000 });
    await expect(this.progress).toBeHidden({ timeout: 90_000 });
  }

  async use(): Promise<void> {
    const before = await this.steps.count();
    await this.page.getByRole('button', { name: 'Use this take' }).click();
    await expect(this.steps).toHaveCount(before + 1);
  }

  /** The finished picture as a PNG file, saved the way a person saves it. */
  async deliverPng(): Promise<Buffer> {
    await this.page.getByRole('link', { name: 'Deliver' }).click();
    await this.page.getByRole('button', { name: 'PNG' }).click();
    const save = this.page.getByRole('button', { name: 'Save the picture' });
    await expect(save).toBeEnabled();
    const download = this.page.waitForEvent('download');
    await save.click();
    const stream = await (await download).createReadStream();
    const chunks: Buffer[] = [];
    for await (const chunk of stream) chunks.push(chunk as Buffer);
    return Buffer.concat(chunks);
  }
}

/** The bytes of a delivered picture, three a pixel. */
export const rgbOf = (png: Buffer): Promise<Buffer> => sharp(png).removeAlpha().raw().toBuffer();

/** Browsers ask for a place to save to; without that dialog they download, which a test can take. */
export const downloadsInsteadOfDialogs = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    for (const dialog of ['showOpenFilePicker', 'showSaveFilePicker']) Reflect.deleteProperty(window, dialog);
  });

export async function openDemo(page: Page, title: string, photo: { width: number; height: number }): Promise<Bench> {
  await page.goto('/');
  await page.getByRole('button', { name: `Open the demo picture ${title}` }).click();
  return atBench(page, photo);
}

export async function openFile(page: Page, name: string, buffer: Buffer): Promise<Bench> {
  const { autoOrient } = await sharp(buffer).metadata();
  await page.goto('/');
  await page.getByLabel('Open photos').setInputFiles({ name, mimeType: 'image/png', buffer });
  return atBench(page, { width: autoOrient.width, height: autoOrient.height });
}

async function atBench(page: Page, photo: { width: number; height: number }): Promise<Bench> {
  await page.waitForURL(/\/p\/[^/]+$/);
  const bench = new Bench(page, photo);
  await expect(bench.canvas).toBeVisible();
  return bench;
}

/** A small made-up scene that computes fast: a red disc of radius 26 at (110, 120) on boards. */
export async function smallScene(): Promise<Buffer> {
  const [width, height] = [400, 260];
  const data = Buffer.alloc(width * height * 3);
  const nextGrain = noise(7, 9);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const grain = nextGrain();
    const value = (y % 18 < 2 ? 60 : 165) + grain;
    const isDisc = (x - 110) ** 2 + (y - 120) ** 2 < 26 ** 2;
    data.set(isDisc ? [190 + grain, 45, 40] : [value, value * 0.93, value * 0.78], 3 * i);
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

export interface Comparison {
  sameSize: boolean;
  /** Pixels that differ at all. */
  differing: number;
  /** Their bounding box. */
  box: { left: number; top: number; right: number; bottom: number };
}

/** Compares two picture files as the browser decodes them, so that both go through one decoder. */
export async function compareInBrowser(page: Page, a: Buffer, b: Buffer): Promise<Comparison> {
  return page.evaluate(
    async ([first, second]) => {
      const pixels = async (base64: string): Promise<ImageData> => {
        const bytes = Uint8Array.from(atob(base64), (character) => character.charCodeAt(0));
        const bitmap = await createImageBitmap(new Blob([bytes]));
        const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
        context.drawImage(bitmap, 0, 0);
        return context.getImageData(0, 0, bitmap.width, bitmap.height);
      };
      const [p, q] = [await pixels(first!), await pixels(second!)];
      const box = { left: Infinity, top: Infinity, right: -1, bottom: -1 };
      let differing = 0;
      for (let i = 0; i < p.data.length; i += 4) {
        if (p.data[i] === q.data[i] && p.data[i + 1] === q.data[i + 1] && p.data[i + 2] === q.data[i + 2]) continue;
        const [x, y] = [(i / 4) % p.width, Math.floor(i / 4 / p.width)];
        differing++;
        box.left = Math.min(box.left, x);
        box.right = Math.max(box.right, x);
        box.top = Math.min(box.top, y);
        box.bottom = Math.max(box.bottom, y);
      }
      return { sameSize: p.width === q.width && p.height === q.height, differing, box };
    },
    [a.toString('base64'), b.toString('base64')],
  );
}
