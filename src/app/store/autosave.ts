import { serialiseError } from '../../core/errors.ts';
import type { FingoDatabase } from '../../storage/database.ts';
import { dropNote, noteSteps, type Notes } from '../../storage/journal.ts';
import { saveProject } from '../../storage/projects.ts';
import type { Project } from '../../storage/projectSchema.ts';
import { benchActions } from '../state/benchSlice.ts';
import { savesSettled, writeNext } from './savesSettled.ts';
import type { AppStore } from './store.ts';

const REST_MS = 120;

/**
 * Writes the open project whenever it changes, soon after; at once when its steps change or the page is left. Returns
 * how to stop.
 */
export function startAutosave(store: AppStore, db: FingoDatabase, notes: Notes): () => Promise<void> {
  let saved: Project | undefined = store.getState().bench.project;
  /** What the database surely has. */
  let stored = saved;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const save = (): Promise<void> => {
    clearTimeout(timer);
    timer = undefined;
    const project = store.getState().bench.project;
    if (!project || project === saved) return savesSettled();
    const written = { ...project, updatedAt: Date.now() };
    // A step is what a person has decided: it must not be lost even to a reload that follows at once.
    if (project.steps !== saved?.steps) noteSteps(notes, written);
    saved = project;
    return writeNext(() =>
      saveProject(db, written).then(
        () => {
          stored = project;
          if (saved === project) dropNote(notes, project.id);
        },
        // Tried again with the next change.
        (error: unknown) => {
          store.dispatch(benchActions.troubleTold(serialiseError(error).message));
        },
      ),
    );
  };
  const unsubscribe = store.subscribe(() => {
    const { project } = store.getState().bench;
    if (project === saved) return;
    if (project && project.steps !== saved?.steps) void save();
    else timer ??= setTimeout(() => void save(), REST_MS);
  });
  const onHide = (): void => {
    // The write may be broken off: a mark just drawn is noted, too.
    const project = store.getState().bench.project;
    if (project && project !== stored) noteSteps(notes, { ...project, updatedAt: Date.now() });
    void save();
  };
  addEventListener('pagehide', onHide);
  document.addEventListener('visibilitychange', onHide);
  return () => {
    unsubscribe();
    removeEventListener('pagehide', onHide);
    document.removeEventListener('visibilitychange', onHide);
    return save();
  };
}
