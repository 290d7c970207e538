import { z } from 'zod';
import { patchSchema } from '../engine/protocol.ts';
import type { ResultStore } from '../engine/workshop.ts';
import type { StepResult } from '../operations/computation.ts';
import type { FingoDatabase } from './database.ts';

/** What of a result must be right for its pixels to be shown; the rest is told, and harmless. */
const resultSchema = z.looseObject({
  patches: z.array(patchSchema),
  rank: z.number(),
  timings: z.record(z.string(), z.number()),
});

/** Results in the database up to a byte budget. Losing one costs only time, so a failed read or write is let go. */
export function createResultStore(db: FingoDatabase, budgetBytes: number): ResultStore {
  return {
    async get(key) {
      const entry = await db.get('pixels', key);
      if (!entry) return undefined;
      if (!resultSchema.safeParse(entry.result).success) {
        await forget(db, key);
        return undefined;
      }
      await letGo(() => db.put('sizes', { key, bytes: bytesOf(entry.result), usedAt: Date.now() }));
      return entry.result;
    },
    async set(key, result) {
      const bytes = bytesOf(result);
      await letGo(async () => {
        await makeRoom(db, budgetBytes - bytes);
        const transaction = db.transaction(['pixels', 'sizes'], 'readwrite');
        await Promise.all([
          transaction.objectStore('pixels').put({ key, result }),
          transaction.objectStore('sizes').put({ key, bytes, usedAt: Date.now() }),
          transaction.done,
        ]);
      });
    },
  };
}

const bytesOf = ({ patches }: StepResult): number =>
  patches.reduce((sum, patch) => sum + patch.image.data.byteLength, 0);

/** Drops the results used longest ago until the rest fits into `budgetBytes`; only their sizes are read. */
async function makeRoom(db: FingoDatabase, budgetBytes: number): Promise<void> {
  const sizes = await db.getAllFromIndex('sizes', 'byUse');
  let total = 0;
  for (const { key, bytes } of sizes.reverse()) {
    total += bytes;
    if (total > budgetBytes) await forget(db, key);
  }
}

async function forget(db: FingoDatabase, key: string): Promise<void> {
  const transaction = db.transaction(['pixels', 'sizes'], 'readwrite');
  await Promise.all([
    transaction.objectStore('pixels').delete(key),
    transaction.objectStore('sizes').delete(key),
    transaction.done,
  ]);
}

async function letGo(write: () => Promise<unknown>): Promise<void> {
  try {
    await write();
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
}
