import type { Memo } from '../operations/computation.ts';

/** A memo that forgets what was used longest ago once its values exceed `budgetBytes`. */
export function createMemo(budgetBytes: number): Memo {
  const entries = new Map<string, { value: unknown; bytes: number }>();
  let total = 0;
  return {
    get(key) {
      const entry = entries.get(key);
      if (!entry) return undefined;
      entries.delete(key);
      entries.set(key, entry);
      return entry.value;
    },
    set(key, value, bytes) {
      total += bytes - (entries.get(key)?.bytes ?? 0);
      entries.delete(key);
      entries.set(key, { value, bytes });
      for (const [oldest, entry] of entries) {
        if (total <= budgetBytes || oldest === key) break;
        entries.delete(oldest);
        total -= entry.bytes;
      }
    },
  };
}
