import { nanoid } from '@reduxjs/toolkit';
import type { FingoDatabase } from '../../../storage/database.ts';
import { changeSummary, copyProject, listProjects, removeProjects } from '../../../storage/summaries.ts';
import type { ProjectSummary } from '../../../storage/summary.ts';
import { savesSettled } from '../../store/savesSettled.ts';
import type { AppStore } from '../../store/store.ts';
import { projectsListed } from './projectsSlice.ts';

/** Deleted projects can be brought back for this long. */
const KEPT_AFTER_DELETE_MS = 10 * 60_000;

export async function refreshProjects(store: AppStore, db: FingoDatabase): Promise<void> {
  await savesSettled();
  const { projects, damaged } = await listProjects(db);
  store.dispatch(projectsListed({ projects: projects.filter((project) => !project.deletedAt), damaged }));
}

/** Removes for good what was deleted longer ago than it can be brought back. */
export const sweepDeleted = (db: FingoDatabase): Promise<void> =>
  removeProjects(db, ({ deletedAt }) => deletedAt !== undefined && Date.now() - deletedAt > KEPT_AFTER_DELETE_MS);

/** Where a project is worked on: a sphere by looking around in it. */
export const projectAddress = (id: string, isSphere: boolean): string => (isSphere ? `/p/${id}/around` : `/p/${id}`);

/** Changes what is told of a project and lists anew. */
async function change(
  store: AppStore,
  db: FingoDatabase,
  id: string,
  edit: (summary: ProjectSummary) => ProjectSummary,
): Promise<void> {
  await savesSettled();
  await changeSummary(db, id, edit);
  await refreshProjects(store, db);
}

export const renameProject = (store: AppStore, db: FingoDatabase, id: string, name: string): Promise<void> =>
  change(store, db, id, (project) => ({ ...project, name: name.trim().slice(0, 120) || project.name }));

export async function duplicateProject(store: AppStore, db: FingoDatabase, id: string): Promise<void> {
  await savesSettled();
  const now = Date.now();
  await copyProject(db, id, (summary) => ({
    ...summary,
    id: nanoid(),
    name: `${summary.name.slice(0, 112)} (copy)`,
    createdAt: now,
    updatedAt: now,
  }));
  await refreshProjects(store, db);
}

export const deleteProject = (store: AppStore, db: FingoDatabase, id: string): Promise<void> =>
  change(store, db, id, (project) => ({ ...project, deletedAt: Date.now() }));

export const restoreProject = (store: AppStore, db: FingoDatabase, id: string): Promise<void> =>
  change(store, db, id, ({ deletedAt: _, ...project }) => project);
