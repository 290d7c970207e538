import { nanoid } from '@reduxjs/toolkit';
import type { FingoDatabase } from '../../../storage/database.ts';
import { listProjects, loadProject, removeProjects, saveProject, saveSource } from '../../../storage/projects.ts';
import type { Project } from '../../../storage/projectSchema.ts';
import { savesSettled } from '../../store/autosave.ts';
import type { AppStore } from '../../store/store.ts';
import { keepOpened } from '../../desk/openedPicture.ts';
import { openPicture } from '../../desk/pictureDesk.ts';
import type { ShownPicture } from '../../../workers/picture.worker.ts';
import { EMPTY_DRAFT } from '../../../operations/draft.ts';
import { isMarked } from '../../../operations/draftBase.ts';
import { projectsListed } from './projectsSlice.ts';
import { recogniseSphere, type SphereGuess } from '../../../formats/metadata/recogniseSphere.ts';
import { sniffPicture } from '../../../formats/sniffPicture.ts';

/** Deleted projects can be brought back for this long. */
const KEPT_AFTER_DELETE_MS = 10 * 60_000;
const THUMBNAIL_PX = 520;

export async function refreshProjects(store: AppStore, db: FingoDatabase): Promise<void> {
  await savesSettled();
  const { projects, damaged } = await listProjects(db);
  store.dispatch(projectsListed({ projects: projects.filter((project) => !project.deletedAt), damaged }));
}

/** Removes for good what was deleted longer ago than it can be brought back. */
export const sweepDeleted = (db: FingoDatabase): Promise<void> =>
  removeProjects(db, ({ deletedAt }) => deletedAt !== undefined && Date.now() - deletedAt > KEPT_AFTER_DELETE_MS);

/**
 * Makes a project of a picture file: decodes it to be sure, then stores it unchanged, and keeps it open for working on
 * it. `begun` is what is begun in it.
 */
export async function createProject(
  db: FingoDatabase,
  file: File,
  begun: Partial<Pick<Project, 'draft' | 'keptMarks'>> = {},
): Promise<Project> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { format, ...size } = sniffPicture(bytes, file.name);
  const guess = recogniseSphere(bytes, file.name, size);
  const sphere = guess.kind === 'sphere' ? guess.placement : undefined;
  const picture = await openPicture(file, file.name, sphere);
  try {
    const { photo, key } = picture.source;
    const now = Date.now();
    const project: Project = {
      id: nanoid(),
      name: file.name.replace(/\.[^.]+$/, '').slice(0, 120) || 'Untitled',
      createdAt: now,
      updatedAt: now,
      source: {
        key,
        fileName: file.name,
        mediaType: format.mediaType,
        ...photo,
        bytes: file.size,
        ...sphereSource(guess),
      },
      steps: [],
      draft: EMPTY_DRAFT,
      keptMarks: [],
      past: [],
      future: [],
      ...(sphere ? keptByName(begun) : begun),
      thumbnail: await picture.thumbnail({ source: picture.source, patches: [] }, THUMBNAIL_PX),
    };
    await saveSource(db, key, file);
    await saveProject(db, project);
    keepOpened(picture);
    return project;
  } catch (error) {
    picture.close();
    throw error;
  }
}

/** Where a project is worked on: a sphere by looking around in it. */
export const projectAddress = ({ id, source }: Project): string => (source.sphere ? `/p/${id}/around` : `/p/${id}`);

/** On a sphere one begins by looking around: what was marked on the flat picture waits among the marks kept by name. */
const keptByName = ({ draft, keptMarks = [] }: Partial<Pick<Project, 'draft' | 'keptMarks'>>): Partial<Project> => ({
  keptMarks: draft && isMarked(draft) ? [{ name: 'Gaps', mark: draft.mark }, ...keptMarks] : keptMarks,
});

/** What a project remembers of whether its photo is a sphere. */
function sphereSource(guess: SphereGuess): Pick<Project['source'], 'sphere' | 'asksSphere' | 'sphereDoubt'> {
  if (guess.kind === 'sphere') return { sphere: guess.placement };
  if (guess.kind === 'doubtful') return { sphereDoubt: guess.message };
  return guess.kind === 'perhaps' ? { asksSphere: true } : {};
}

export const makeThumbnail = (picture: Awaited<ReturnType<typeof openPicture>>, shown: ShownPicture): Promise<Blob> =>
  picture.thumbnail(shown, THUMBNAIL_PX);

/** Changes a stored project and lists anew. */
async function change(store: AppStore, db: FingoDatabase, id: string, edit: (project: Project) => Project) {
  const project = await loadProject(db, id);
  if (project) await saveProject(db, edit(project));
  await refreshProjects(store, db);
}

export const renameProject = (store: AppStore, db: FingoDatabase, id: string, name: string): Promise<void> =>
  change(store, db, id, (project) => ({ ...project, name: name.trim().slice(0, 120) || project.name }));

export const duplicateProject = (store: AppStore, db: FingoDatabase, id: string): Promise<void> =>
  change(store, db, id, (project) => {
    const now = Date.now();
    return { ...project, id: nanoid(), name: `${project.name.slice(0, 112)} (copy)`, createdAt: now, updatedAt: now };
  });

export const deleteProject = (store: AppStore, db: FingoDatabase, id: string): Promise<void> =>
  change(store, db, id, (project) => ({ ...project, deletedAt: Date.now() }));

export const restoreProject = (store: AppStore, db: FingoDatabase, id: string): Promise<void> =>
  change(store, db, id, ({ deletedAt: _, ...project }) => project);
