import { readFile } from 'node:fs/promises';
import { expect, test } from '@jest/globals';
import { dropNote, noteSteps, withNote, type Notes } from './journal.ts';
import { projectSchema, type Project } from './projectSchema.ts';

const stored = async (): Promise<Project> =>
  projectSchema.parse(JSON.parse(await readFile(new URL('./fixtures/project-v1.json', import.meta.url), 'utf8')));

function inMemory(most = Infinity): Notes {
  const kept = new Map<string, string>();
  return {
    getItem: (key) => kept.get(key) ?? null,
    setItem(key, value) {
      if (value.length > most) throw new DOMException('full', 'QuotaExceededError');
      kept.set(key, value);
    },
    removeItem: (key) => void kept.delete(key),
  };
}

test('steps noted after the last save come back, with the stored ones one undo away', async () => {
  const project = await stored();
  const notes = inMemory();
  noteSteps(notes, { ...project, steps: project.steps.slice(0, 1), updatedAt: project.updatedAt + 1 });
  const opened = withNote(notes, project);
  expect(opened.steps).toEqual(project.steps.slice(0, 1));
  expect(opened.past.at(-1)?.steps).toEqual(project.steps);
  expect(opened.past.slice(0, -1)).toEqual(project.past);
});

test('a note that is older than what is stored, dropped or damaged changes nothing', async () => {
  const project = await stored();
  const notes = inMemory();
  noteSteps(notes, { ...project, steps: [] });
  expect(withNote(notes, project)).toBe(project);
  noteSteps(notes, { ...project, steps: [], updatedAt: project.updatedAt + 1 });
  dropNote(notes, project.id);
  expect(withNote(notes, project)).toBe(project);
  notes.setItem(`fingo/steps/${project.id}`, '{"steps":[{"type":"unheard"}],"updatedAt":9e15}');
  expect(withNote(notes, project)).toBe(project);
});

test('steps too large to be noted leave no older note in their place', async () => {
  const project = await stored();
  const notes = inMemory(3000);
  const later = project.updatedAt + 1;
  noteSteps(notes, { ...project, steps: [], updatedAt: later });
  expect(withNote(notes, project).steps).toEqual([]);
  const many = Array.from({ length: 50 }, () => project.steps).flat();
  noteSteps(notes, { ...project, steps: many, updatedAt: later + 1 });
  expect(withNote(notes, project)).toBe(project);
});
