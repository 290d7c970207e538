import { mkdtemp, mkdir, writeFile } from 'node:fs/promises';
import { createServer as createHttpServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer } from './createServer.ts';
import { listenOnFreePort } from './listenOnFreePort.ts';

let base = '';
let server: Server;

beforeAll(async () => {
  const dist = await mkdtemp(join(tmpdir(), 'fingo-dist-'));
  await mkdir(join(dist, 'assets'));
  await writeFile(join(dist, 'index.html'), '<title>Fingo</title>');
  await writeFile(join(dist, 'assets', 'a.js'), 'export {}');
  await writeFile(join(dist, 'assets', 'stitch.worker-a1.js'), 'export {}');
  server = createHttpServer(createServer(dist));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => server.close());

test('every view of the application is the same page, isolated and under a strict policy', async () => {
  for (const path of ['/', '/p/abc', '/p/abc/deliver']) {
    const answer = await fetch(base + path);
    expect(await answer.text()).toContain('Fingo');
    expect(answer.headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(answer.headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(answer.headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(answer.headers.get('content-security-policy')).not.toContain("'unsafe-eval'");
  }
});

test('only the worker that stitches may build functions of text, and nothing else is loosened for it', async () => {
  const policyOf = async (path: string): Promise<string> =>
    (await fetch(base + path)).headers.get('content-security-policy')!;
  expect(await policyOf('/assets/stitch.worker-a1.js')).toContain("'unsafe-eval'");
  expect(await policyOf('/assets/stitch.worker-a1.js')).toContain("default-src 'self'");
  expect(await policyOf('/assets/a.js')).not.toContain("'unsafe-eval'");
  expect(await policyOf('/p/stitch.worker-a1.js/x')).not.toContain("'unsafe-eval'");
});

test('files are served, missing ones are not found instead of being a page, folders are not listed', async () => {
  expect((await fetch(`${base}/assets/a.js`)).status).toBe(200);
  const missing = await fetch(`${base}/assets/old.js`);
  expect([missing.status, await missing.text()]).toEqual([404, 'Not found']);
  expect(await (await fetch(`${base}/assets/`)).text()).not.toContain('a.js');
  expect((await fetch(`${base}/..%2f..%2fetc/passwd.txt`)).status).toBeGreaterThanOrEqual(400);
});

test('a taken port leads to the next free one', async () => {
  const { port } = server.address() as AddressInfo;
  const found = await listenOnFreePort(createServer('/nowhere'), port, '127.0.0.1');
  expect(found.port).toBeGreaterThan(port);
  found.server.close();
});
