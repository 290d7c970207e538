import { guardedWrite, type FingoDatabase } from './database.ts';
import { packHistory, unpackHistory, type PackedHistory } from './history.ts';
import { projectSchema, type Project } from './projectSchema.ts';
import { SUMMARY_ONLY, summaryOf } from './summary.ts';

/** A project with its history; undefined where there is none of this id, or it can't be read. */
export async function loadProject(db: FingoDatabase, id: string): Promise<Project | undefined> {
  const transaction = db.transaction(['projects', 'summaries']);
  const [record, summary] = await Promise.all([
    transaction.objectStore('projects').get(id),
    transaction.objectStore('summaries').get(id),
  ]);
  if (!record) return undefined;
  try {
    return projectSchema.parse({ ...record, ...summary, ...historyOf(record) });
  } catch {
    return undefined;
  }
}

/** Records of before version 3 hold whole states. */
function historyOf({ history, ...record }: Record<string, unknown>): { past?: unknown[]; future?: unknown[] } {
  if (history === undefined) return {};
  return unpackHistory({ steps: record.steps, draft: record.draft }, history as PackedHistory);
}

export async function saveProject(db: FingoDatabase, project: Project): Promise<void> {
  const { past, future, ...rest } = project;
  const record: Record<string, unknown> & { id: string } = {
    ...rest,
    history: packHistory({ steps: project.steps, draft: project.draft }, past, future),
  };
  for (const field of SUMMARY_ONLY) delete record[field];
  await guardedWrite(async () => {
    const transaction = db.transaction(['projects', 'summaries'], 'readwrite');
    await Promise.all([
      transaction.objectStore('projects').put(record),
      transaction.objectStore('summaries').put(summaryOf(project)),
      transaction.done,
    ]);
  });
}

/** Stores an original once, whatever the number of projects made from it. */
export async function saveSource(db: FingoDatabase, key: string, blob: Blob): Promise<void> {
  if (await db.getKey('sources', key)) return;
  await guardedWrite(() => db.put('sources', { key, blob }));
}

export const loadSource = async (db: FingoDatabase, key: string): Promise<Blob | undefined> =>
  (await db.get('sources', key))?.blob;
