import { guardedWrite, type FingoDatabase } from './database.ts';
import { summarySchema, type ProjectSummary } from './summary.ts';

// What is done with projects without opening them.

/** All projects that can be read, the one worked on last first; damaged records are counted, not shown. */
export async function listProjects(db: FingoDatabase): Promise<{ projects: ProjectSummary[]; damaged: number }> {
  const transaction = db.transaction(['projects', 'summaries']);
  const [records, count] = await Promise.all([
    transaction.objectStore('summaries').getAll(),
    transaction.objectStore('projects').count(),
  ]);
  const projects = records.flatMap((record) => {
    const summary = summarySchema.safeParse(record);
    return summary.success ? [summary.data] : [];
  });
  projects.sort((a, b) => b.updatedAt - a.updatedAt);
  return { projects, damaged: count - projects.length };
}

/** Changes what is told of a project; nothing where there is none of this id. */
export async function changeSummary(
  db: FingoDatabase,
  id: string,
  edit: (summary: ProjectSummary) => ProjectSummary,
): Promise<void> {
  await guardedWrite(async () => {
    const transaction = db.transaction('summaries', 'readwrite');
    const summary = summarySchema.safeParse(await transaction.store.get(id));
    if (summary.success) await transaction.store.put(edit(summary.data));
    await transaction.done;
  });
}

/** Another project of the same original and steps, under another id. */
export async function copyProject(
  db: FingoDatabase,
  id: string,
  edit: (summary: ProjectSummary) => ProjectSummary,
): Promise<void> {
  await guardedWrite(async () => {
    const transaction = db.transaction(['projects', 'summaries'], 'readwrite');
    const [projects, summaries] = [transaction.objectStore('projects'), transaction.objectStore('summaries')];
    const record = await projects.get(id);
    const summary = summarySchema.safeParse(await summaries.get(id));
    if (record && summary.success) {
      const copy = edit(summary.data);
      await projects.put({ ...record, id: copy.id });
      await summaries.put(copy);
    }
    await transaction.done;
  });
}

/** Removes projects for good, and originals that no project needs any more. */
export async function removeProjects(db: FingoDatabase, isGone: (project: ProjectSummary) => boolean): Promise<void> {
  const { projects, damaged } = await listProjects(db);
  const gone = projects.filter(isGone);
  if (gone.length === 0) return;
  const kept = new Set(projects.filter((project) => !isGone(project)).map(({ sourceKey }) => sourceKey));
  const transaction = db.transaction(['projects', 'summaries', 'sources'], 'readwrite');
  for (const { id, sourceKey } of gone) {
    await transaction.objectStore('projects').delete(id);
    await transaction.objectStore('summaries').delete(id);
    // A damaged record may still need any original: keep them all then.
    if (damaged === 0 && !kept.has(sourceKey)) await transaction.objectStore('sources').delete(sourceKey);
  }
  await transaction.done;
}
