import type { Task } from '../core/progress.ts';
import { perform } from './perform.ts';

function* busy(untilMs: number): Task<string> {
  const end = performance.now() + untilMs;
  while (performance.now() < end) yield { stage: 'Counting', share: 0.5 };
  return 'done';
}

test('a task comes to its end, telling how far it is', async () => {
  const shares: number[] = [];
  expect(await perform(busy(5), { onProgress: ({ share }) => shares.push(share) })).toBe('done');
  expect(shares.length).toBeGreaterThan(0);
});

test('a cancel that comes while it computes arrives before it ends', async () => {
  const stopping = new AbortController();
  setTimeout(() => stopping.abort(), 20);
  await expect(perform(busy(2000), { signal: stopping.signal })).rejects.toThrow(/abort/i);
});
