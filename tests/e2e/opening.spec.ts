import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { openFile, smallScene } from '../support/bench.ts';

const plain = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#8a7' }, limitInputPixels: false });

/** A picture too large to be made quickly otherwise: its header says 12,000 x 9,000 px, and so do its pixels. */
const huge = () => plain(12_000, 9_000).png({ compressionLevel: 1 }).toBuffer();

const CASES: [string, string, () => Promise<Buffer>, RegExp][] = [
  [
    'a broken file',
    'broken.jpg',
    async () => (await plain(900, 700).jpeg().toBuffer()).subarray(0, 600),
    /damaged or ends/,
  ],
  ['an empty file', 'empty.jpg', async () => Buffer.alloc(0), /"empty.jpg" is empty/],
  ['a text file', 'letter.jpg', async () => Buffer.from('Dear diary, no picture today.'), /not a JPEG, PNG, WebP/],
  ['a huge picture', 'huge.png', huge, /12000 x 9000 px \(108 megapixels\).*Save it smaller/],
];

for (const [what, name, make, message] of CASES) {
  test(`${what} is told in one sentence, and nothing is lost`, async ({ page }) => {
    await openFile(page, 'boards.png', await smallScene());
    await page.getByRole('link', { name: 'Projects' }).click();
    const buffer = await make();
    await page.getByLabel('Open photos').setInputFiles({ name, mimeType: 'image/jpeg', buffer });
    await expect(page.getByRole('alert').filter({ hasText: message })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'boards' })).toBeVisible();
  });
}

test('a picture of one pixel opens, and says what is missing when it can’t be rebuilt', async ({ page }) => {
  const bench = await openFile(page, 'dot.png', await plain(1, 1).png().toBuffer());
  await page.keyboard.press('p');
  await bench.drag([0.5, 0.5], [0.6, 0.6]);
  await bench.choose('Clear');
  await page.getByRole('button', { name: 'Make takes' }).click();
  await expect(page.getByRole('alert').filter({ hasText: /too little around the mark/ })).toBeVisible();
});

test('a photo taken with the camera turned stands upright', async ({ page }) => {
  const turned = await plain(300, 200).jpeg().withMetadata({ orientation: 6 }).toBuffer();
  await openFile(page, 'turned.jpg', turned);
  await page.getByRole('link', { name: 'Projects' }).click();
  await expect(page.getByText('200 x 300 px')).toBeVisible();
});

test('photos are dropped and pasted', async ({ page }) => {
  const bytes = (await smallScene()).toString('base64');
  for (const kind of ['drop', 'paste'] as const) {
    await page.goto('/');
    await expect(page.getByRole('button', { name: 'Open a photo' })).toBeVisible();
    await page.evaluate(
      ([base64, type]) => {
        const data = Uint8Array.from(atob(base64!), (character) => character.charCodeAt(0));
        const transfer = new DataTransfer();
        transfer.items.add(new File([data], 'given.png', { type: 'image/png' }));
        const target = document.querySelector('main')!;
        if (type === 'paste') {
          target.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true }));
        } else {
          for (const name of ['dragenter', 'dragover', 'drop']) {
            target.dispatchEvent(new DragEvent(name, { dataTransfer: transfer, bubbles: true, cancelable: true }));
          }
        }
      },
      [bytes, kind],
    );
    await page.waitForURL(/\/p\//);
    await expect(page.getByRole('application')).toBeVisible();
  }
});

test('the page is isolated from other origins', async ({ page }) => {
  await page.goto('/');
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
});
