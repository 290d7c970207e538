import { chromium, type Page } from '@playwright/test';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { createServer } from '../src/server/createServer.ts';
import { BROWSER } from '../tests/support/browser.ts';
import type { Table } from './table.ts';

const DIST = fileURLToPath(new URL('../dist', import.meta.url));
const RUNS = 7;
const [PROJECTS, STEPS] = [200, 40];

/** Milliseconds from the page's scripts being loaded until its list stands on the screen, the median of some loads. */
async function paintedAfter(page: Page, address: string): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    await page.goto(address);
    const painted = await page.waitForFunction(() => (globalThis as { listPainted?: number }).listPainted);
    const loaded = await page.evaluate(() =>
      Math.max(
        ...performance
          .getEntriesByType('resource')
          .filter(({ name }) => name.endsWith('.js'))
          .map((entry) => (entry as PerformanceResourceTiming).responseEnd),
      ),
    );
    times.push((await painted.jsonValue())! - loaded);
  }
  return times.sort((a, b) => a - b)[Math.floor(RUNS / 2)]!;
}

/** Fills the database with projects of many steps, each with a mark of some hundred points. */
async function fill(page: Page): Promise<void> {
  await page.evaluate(
    async ([projects, steps]) => {
      const open = indexedDB.open('fingo');
      const db = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
      const canvas = new OffscreenCanvas(520, 346);
      canvas.getContext('2d')!.fillRect(20, 20, 200, 200);
      const thumbnail = await canvas.convertToBlob({ type: 'image/jpeg' });
      const points = Array.from({ length: 600 }, (_, k) => k);
      const mark = { shapes: [{ kind: 'lasso', combine: 'startOver', points }], growPx: 0, smoothPx: 0, featherPx: 0 };
      const step = (id: string) => ({
        id,
        type: 'clear',
        version: 1,
        enabled: true,
        params: { mark, closeness: 50, light: 100, take: { strategy: 'large pieces', seed: 1 } },
      });
      const transaction = db.transaction(['projects', 'summaries'], 'readwrite');
      for (let p = 0; p < projects!; p++) {
        const id = `p${p}`;
        const size = { width: 2400, height: 1600 };
        const times = { createdAt: p, updatedAt: p };
        const told = { id, name: `Project ${p}`, ...times, sourceKey: 'k', ...size, isSphere: false, stepCount: steps };
        transaction.objectStore('summaries').put({ ...told, thumbnail });
        const draft = {
          mark: { ...mark, shapes: [] },
          waiting: [],
          before: [],
          closeness: 50,
          light: 100,
          takes: [],
          takesFor: '',
        };
        const source = { key: 'k', fileName: 'a.jpg', mediaType: 'image/jpeg', ...size, bytes: 9 };
        const all = Array.from({ length: steps! }, (_, s) => step(`${p}-${s}`));
        const history = { past: [], future: [] };
        transaction.objectStore('projects').put({ id, source, steps: all, draft, keptMarks: [], history });
      }
      await new Promise((resolve) => (transaction.oncomplete = resolve));
      db.close();
    },
    [PROJECTS, STEPS],
  );
}

/** How soon the list of projects stands on the screen, empty and full. Needs the application built. */
export async function measureProjectsPage(): Promise<Table> {
  const server = createServer(DIST).listen(0, '127.0.0.1');
  await once(server, 'listening');
  const browser = await chromium.launch(BROWSER.launchOptions);
  try {
    const address = `http://localhost:${(server.address() as AddressInfo).port}/`;
    const page = await browser.newPage({ viewport: BROWSER.viewport });
    // The bench's compiler names functions by a helper that pages don't have.
    await page.addInitScript('globalThis.__name = (named) => named');
    await page.addInitScript(() => {
      const isListed = (): boolean =>
        document.querySelector('[aria-label^="Open the project"]') !== null ||
        (document.body?.textContent.includes('Drop a photo here') ?? false);
      const look = (): void => {
        // The frame after the one in which the list is there shows it.
        if (isListed()) requestAnimationFrame(() => Object.assign(globalThis, { listPainted: performance.now() }));
        else requestAnimationFrame(look);
      };
      look();
    });
    const empty = await paintedAfter(page, address);
    await fill(page);
    const full = await paintedAfter(page, address);
    return {
      title: 'The list of projects',
      about: `From the page’s scripts being loaded to the list being painted, in headless Chromium; the median of ${RUNS} loads.`,
      columns: ['projects', 'ms', 'times the empty list'],
      rows: [
        ['none', empty, 1],
        [`${PROJECTS} of ${STEPS} steps`, full, full / empty],
      ],
    };
  } finally {
    await browser.close();
    server.close();
  }
}
