import type { StepResult } from '../operations/computation.ts';
import { createMemo } from './memo.ts';
import type { ResultStore } from './workshop.ts';

/** Results kept in memory up to a byte budget, backed by `next` where there is one. */
export function createMemoryStore(budgetBytes: number, next?: ResultStore): ResultStore {
  const memo = createMemo(budgetBytes);
  const bytesOf = (result: StepResult): number => result.patches.reduce((sum, p) => sum + p.image.data.byteLength, 0);
  return {
    async get(key) {
      const known = memo.get(key) as StepResult | undefined;
      if (known) return known;
      const found = await next?.get(key);
      if (found) memo.set(key, found, bytesOf(found));
      return found;
    },
    async set(key, result) {
      memo.set(key, result, bytesOf(result));
      await next?.set(key, result);
    },
  };
}
