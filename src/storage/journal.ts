import type { z } from 'zod';
import { projectSchema, type Project } from './projectSchema.ts';

// A write to the database is broken off when the page goes away while it is under way. Steps are therefore first noted
// where writing is done at once, and the note is dropped when the database has them.

/** What notes are kept in: the browser's local storage, or a stand-in. */
export type Notes = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

const noteSchema = projectSchema.pick({ steps: true, draft: true, updatedAt: true });

const keyOf = (id: string): string => `fingo/steps/${id}`;

/** Notes the steps of a project that is about to be saved. Notes that don't fit are left out: the save follows anyway. */
export function noteSteps(notes: Notes, { id, steps, draft, updatedAt }: Project): void {
  try {
    notes.setItem(keyOf(id), JSON.stringify({ steps, draft, updatedAt } satisfies z.infer<typeof noteSchema>));
  } catch {
    dropNote(notes, id);
  }
}

export const dropNote = (notes: Notes, id: string): void => notes.removeItem(keyOf(id));

/** A stored project with what was noted after it was stored; undo leads back to what is stored. */
export function withNote(notes: Notes, project: Project): Project {
  let note: z.infer<typeof noteSchema>;
  try {
    note = noteSchema.parse(JSON.parse(notes.getItem(keyOf(project.id)) ?? 'null'));
  } catch {
    return project;
  }
  if (note.updatedAt <= project.updatedAt) return project;
  const past = [...project.past, { steps: project.steps, draft: project.draft }];
  return { ...project, ...note, past, future: [] };
}
