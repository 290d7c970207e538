import type { FingoDatabase } from './database.ts';
import { guardedWrite } from './database.ts';
import { projectSchema, type Project } from './projectSchema.ts';

/** All projects that can be read, the one worked on last first; damaged records are counted, not shown. */
export async function listProjects(db: FingoDatabase): Promise<{ projects: Project[]; damaged: number }> {
  const records = await db.getAll('projects');
  const projects: Project[] = [];
  for (const record of records) {
    const project = readProject(record);
    if (project) projects.push(project);
  }
  projects.sort((a, b) => b.updatedAt - a.updatedAt);
  return { projects, damaged: records.length - projects.length };
}

export async function loadProject(db: FingoDatabase, id: string): Promise<Project | undefined> {
  const record = await db.get('projects', id);
  return record && readProject(record);
}

function readProject(record: unknown): Project | undefined {
  try {
    return projectSchema.parse(record);
  } catch {
    return undefined;
  }
}

export const saveProject = (db: FingoDatabase, project: Project): Promise<string> =>
  guardedWrite(() => db.put('projects', project));

/** Stores an original once, whatever the number of projects made from it. */
export async function saveSource(db: FingoDatabase, key: string, blob: Blob): Promise<void> {
  if (await db.getKey('sources', key)) return;
  await guardedWrite(() => db.put('sources', { key, blob }));
}

export const loadSource = async (db: FingoDatabase, key: string): Promise<Blob | undefined> =>
  (await db.get('sources', key))?.blob;

/** Removes projects for good, and originals that no project needs any more. */
export async function removeProjects(db: FingoDatabase, isGone: (project: Project) => boolean): Promise<void> {
  const { projects, damaged } = await listProjects(db);
  const gone = projects.filter(isGone);
  if (gone.length === 0) return;
  const kept = new Set(projects.filter((project) => !isGone(project)).map((project) => project.source.key));
  const transaction = db.transaction(['projects', 'sources'], 'readwrite');
  for (const project of gone) {
    await transaction.objectStore('projects').delete(project.id);
    // A damaged record may still need any original: keep them all then.
    if (damaged === 0 && !kept.has(project.source.key))
      await transaction.objectStore('sources').delete(project.source.key);
  }
  await transaction.done;
}
