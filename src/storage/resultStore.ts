import type { ResultStore } from '../engine/workshop.ts';
import type { FingoDatabase } from './database.ts';

/** Results in the database up to a byte budget. Losing one costs only time, so a failed write is let go. */
export function createResultStore(db: FingoDatabase, budgetBytes: number): ResultStore {
  return {
    async get(key) {
      const entry = await db.get('results', key);
      if (!entry) return undefined;
      return entry.result;
    },
    async set(key, result) {
      const bytes = result.patches.reduce((sum, patch) => sum + patch.image.data.byteLength, 0);
      try {
        await makeRoom(db, budgetBytes - bytes);
        await db.put('results', { key, result, bytes, usedAt: Date.now() });
      } catch (error) {
        if (!(error instanceof DOMException)) throw error;
      }
    },
  };
}

/** Drops the oldest results until the rest fits into `budgetBytes`. */
async function makeRoom(db: FingoDatabase, budgetBytes: number): Promise<void> {
  const transaction = db.transaction('results', 'readwrite');
  let total = 0;
  // Newest first: what no longer fits is dropped.
  for (
    let cursor = await transaction.store.index('byUse').openCursor(null, 'prev');
    cursor;
    cursor = await cursor.continue()
  ) {
    total += cursor.value.bytes;
    if (total > budgetBytes) await cursor.delete();
  }
  await transaction.done;
}
