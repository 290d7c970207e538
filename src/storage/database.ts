import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb';
import { FingoError } from '../core/errors.ts';
import type { StepResult } from '../operations/computation.ts';
import { summaryOf, summarySchema } from './summary.ts';

export interface FingoSchema extends DBSchema {
  /** What the list of projects shows; checked by summarySchema. */
  summaries: { key: string; value: { id: string } & Record<string, unknown> };
  /** The rest of each project; checked by projectSchema, together with its summary, when it is opened. */
  projects: { key: string; value: { id: string } & Record<string, unknown> };
  /** Original files, byte for byte, by their SHA-256. */
  sources: { key: string; value: { key: string; blob: Blob } };
  /** Pixels that can be computed again; checked when they are read. */
  pixels: { key: string; value: { key: string; result: StepResult } };
  /** How large they are and when they were used last, so that room is made without reading them. */
  sizes: { key: string; value: { key: string; bytes: number; usedAt: number }; indexes: { byUse: number } };
  /** The frames that are being stitched, and what was chosen about them; checked by stitchingSchema. */
  stitching: { key: string; value: { key: string } & Record<string, unknown> };
}

export type FingoDatabase = IDBPDatabase<FingoSchema>;
/** Until version 2, results with their sizes. */
const OLD_RESULTS = 'results' as never;

type Upgrade = IDBPTransaction<FingoSchema, StoreNames<FingoSchema>[], 'versionchange'>;

/** One entry a version, never changed once released; entry n leads from version n to n + 1. */
const MIGRATIONS: readonly { name: string; run(db: FingoDatabase, transaction: Upgrade): void | Promise<void> }[] = [
  {
    name: 'projects, sources and results',
    run(db) {
      db.createObjectStore('projects', { keyPath: 'id' });
      db.createObjectStore('sources', { keyPath: 'key' });
      (db as unknown as IDBPDatabase).createObjectStore(OLD_RESULTS, { keyPath: 'key' }).createIndex('byUse', 'usedAt');
    },
  },
  {
    name: 'what is being stitched',
    run(db) {
      db.createObjectStore('stitching', { keyPath: 'key' });
    },
  },
  {
    name: 'summaries apart from projects, sizes apart from pixels',
    async run(db, transaction) {
      db.createObjectStore('summaries', { keyPath: 'id' });
      db.createObjectStore('pixels', { keyPath: 'key' });
      db.createObjectStore('sizes', { keyPath: 'key' }).createIndex('byUse', 'usedAt');
      // Results are computed again; keeping them would mean to read a gigabyte now.
      db.deleteObjectStore(OLD_RESULTS);
      const summaries = transaction.objectStore('summaries');
      const projects = transaction.objectStore('projects');
      for (let cursor = await projects.openCursor(); cursor; cursor = await cursor.continue()) {
        const summary = summarySchema.safeParse(summaryOf(cursor.value));
        // What can't be read stays as it is, and is counted.
        if (summary.success) await summaries.put(summary.data);
      }
    },
  },
];

/** Brings a database up to date, or leaves it as it was: the database is open once the transaction has ended. */
async function migrate(db: FingoDatabase, oldVersion: number, transaction: Upgrade): Promise<void> {
  try {
    for (const migration of MIGRATIONS.slice(oldVersion)) await migration.run(db, transaction);
  } catch {
    transaction.abort();
  }
}

/** Opens (and brings up to date) the database. Throws `storage-unavailable` where the browser keeps nothing. */
export async function openDatabase(name = 'fingo'): Promise<FingoDatabase> {
  try {
    return await openDB<FingoSchema>(name, MIGRATIONS.length, {
      upgrade: (db, oldVersion, _newVersion, transaction) => void migrate(db, oldVersion, transaction),
      blocking: (_current, _blocked, event) => (event.target as IDBDatabase).close(),
    });
  } catch {
    throw new FingoError(
      'storage-unavailable',
      'This browser does not let Fingo keep anything; leave private browsing or allow site data, then load the page again.',
    );
  }
}

/** Runs a write; a full disk becomes `storage-full`, which says what to do. */
export async function guardedWrite<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (error instanceof DOMException && error.name === 'QuotaExceededError') {
      throw new FingoError(
        'storage-full',
        'The browser’s storage for Fingo is full, so the last change is not saved; export what you need, then delete a project.',
      );
    }
    throw error;
  }
}
