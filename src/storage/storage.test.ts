import { jest } from '@jest/globals';
import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { readFile } from 'node:fs/promises';
import { pictureOf } from '../../tests/support/pictures.ts';
import type { StepResult } from '../operations/computation.ts';
import { guardedWrite, openDatabase, type FingoDatabase } from './database.ts';
import { loadProject, loadSource, saveProject, saveSource } from './projects.ts';
import { listProjects, removeProjects } from './summaries.ts';
import { panoramaSettingsSchema } from '../engine/stitchProtocol.ts';
import type { Draft } from '../operations/draft.ts';
import { projectSchema, type Project, type Snapshot } from './projectSchema.ts';
import { loadStitching, saveChoices, saveFrames } from './stitching.ts';
import { createResultStore } from './resultStore.ts';

let db: FingoDatabase;
let count = 0;
beforeEach(async () => {
  db = await openDatabase(`test-${count++}`);
});
afterEach(() => db.close());

/** A project as the first version of the schema wrote it. It must always load. */
const frozen = async (): Promise<Project> =>
  projectSchema.parse(JSON.parse(await readFile(new URL('./fixtures/project-v1.json', import.meta.url), 'utf8')));

const variant = async (id: string, change: Partial<Project> = {}): Promise<Project> => ({
  ...(await frozen()),
  id,
  ...change,
});

test('a project of the first version loads with its steps, its draft and its history', async () => {
  const project = await frozen();
  expect(project.steps.map((step) => step.type)).toEqual(['clear', 'move']);
  expect(project.draft).toMatchObject({ change: { kind: 'duplicate' }, closeness: 75 });
  expect(project.past).toHaveLength(1);
  await saveProject(db, project);
  expect(await loadProject(db, project.id)).toEqual(project);
});

test('the list has what was worked on last first; a damaged record is counted and left alone', async () => {
  await saveProject(db, await variant('old', { updatedAt: 1 }));
  await saveProject(db, await variant('new', { updatedAt: 2 }));
  await db.put('projects', { id: 'broken', name: 5 });
  const { projects, damaged } = await listProjects(db);
  expect(projects.map(({ id }) => id)).toEqual(['new', 'old']);
  expect(damaged).toBe(1);
  expect(await db.get('projects', 'broken')).toEqual({ id: 'broken', name: 5 });
});

test('an original is stored once, byte for byte, and goes with the last project that needs it', async () => {
  const blob = new Blob([Uint8Array.from([1, 2, 3, 255])]);
  await saveSource(db, 'k', blob);
  await saveSource(db, 'k', new Blob(['another']));
  expect(new Uint8Array(await (await loadSource(db, 'k'))!.arrayBuffer())).toEqual(Uint8Array.from([1, 2, 3, 255]));
  const source = { ...(await frozen()).source, key: 'k' };
  await saveProject(db, await variant('a', { source, deletedAt: 5 }));
  await saveProject(db, await variant('b', { source }));
  await removeProjects(db, ({ deletedAt }) => deletedAt !== undefined);
  expect(await loadSource(db, 'k')).toBeDefined();
  await removeProjects(db, () => true);
  expect(await loadSource(db, 'k')).toBeUndefined();
});

test('results come back pixel for pixel; beyond the budget the oldest go', async () => {
  const store = createResultStore(db, 10_000);
  const result = (value: number): StepResult => ({
    patches: [{ rect: { x: 0, y: 0, width: 32, height: 32 }, image: pictureOf(32, 32, () => [value, 2, 3]) }],
    rank: value,
    timings: {},
  });
  let now = 1;
  jest.spyOn(Date, 'now').mockImplementation(() => now++);
  for (const value of [1, 2, 3]) await store.set(`k${value}`, result(value));
  expect(await store.get('k1')).toBeUndefined();
  expect(await store.get('k2')).toEqual(result(2));
  expect(await store.get('k3')).toEqual(result(3));
});

test('a result that is damaged counts as missing and is forgotten; one that is read counts as used', async () => {
  const store = createResultStore(db, 10_000);
  const result = (value: number): StepResult => ({
    patches: [{ rect: { x: 0, y: 0, width: 32, height: 32 }, image: pictureOf(32, 32, () => [value, 2, 3]) }],
    rank: value,
    timings: {},
  });
  let now = 1;
  jest.spyOn(Date, 'now').mockImplementation(() => now++);
  await store.set('old', result(1));
  await store.set('new', result(2));
  await store.get('old');
  await store.set('third', result(3));
  expect(await store.get('new')).toBeUndefined();
  expect(await store.get('old')).toEqual(result(1));
  const { patches } = result(4);
  await db.put('pixels', {
    key: 'old',
    result: { ...result(4), patches: [{ ...patches[0]!, rect: { x: 0, y: 0, width: 9, height: 32 } }] },
  });
  expect(await store.get('old')).toBeUndefined();
  expect([await db.get('pixels', 'old'), await db.get('sizes', 'old')]).toEqual([undefined, undefined]);
});

test('undo and redo come back as they were, kept as what changed from one state to the next', async () => {
  const project = await frozen();
  const grown = (growPx: number): Draft => ({ ...project.draft, mark: { ...project.draft.mark, growPx } });
  const state = (growPx: number, steps = project.steps): Snapshot => ({ steps, draft: grown(growPx) });
  const [first] = project.steps;
  const long: Project = {
    ...project,
    past: [state(1, []), state(2, [first!]), state(3)],
    future: [state(9, [first!, first!]), state(8)],
  };
  await saveProject(db, long);
  expect(await loadProject(db, project.id)).toEqual(long);
  const record = JSON.stringify(await db.get('projects', project.id));
  // Ten states more cost less than the project once more.
  const more = { ...long, past: [...long.past, ...Array.from({ length: 10 }, (_, k) => state(20 + k))] };
  await saveProject(db, more);
  const grownRecord = JSON.stringify(await db.get('projects', project.id));
  expect(grownRecord.length - record.length).toBeLessThan(JSON.stringify({ steps: project.steps }).length);
  expect(await loadProject(db, project.id)).toEqual(more);
});

test('a project whose history was damaged can’t be opened, and stays in the list as what it is', async () => {
  await saveProject(db, await variant('a'));
  const record = (await db.get('projects', 'a'))!;
  const past = [[{ op: 'replace', path: '/nowhere/at/all', value: 1 }]];
  await db.put('projects', { ...record, history: { past, future: [] } });
  expect(await loadProject(db, 'a')).toBeUndefined();
  expect((await listProjects(db)).projects.map(({ id }) => id)).toEqual(['a']);
});

test('a full disk is told with what to do', async () => {
  const full = () => Promise.reject(new DOMException('full', 'QuotaExceededError'));
  await expect(guardedWrite(full)).rejects.toMatchObject({
    code: 'storage-full',
    message: expect.stringContaining('delete a project') as unknown,
  });
});

test('frames that are being stitched are kept with what was chosen; damaged choices give way to the usual ones', async () => {
  expect(await loadStitching(db)).toBeUndefined();
  const frames = [{ id: 'a', name: 'a.jpg', blob: new Blob(['1']) }];
  const settings = panoramaSettingsSchema.parse({ projection: 'spherical' });
  await saveFrames(db, frames);
  await saveChoices(db, { settings, crop: { x: -5, y: 0, width: 40, height: 30 } });
  const kept = await loadStitching(db);
  expect(kept?.frames.map(({ name }) => name)).toEqual(['a.jpg']);
  expect(kept?.choices).toEqual({ settings, crop: { x: -5, y: 0, width: 40, height: 30 } });
  await db.put('stitching', { key: 'choices', settings: { projection: 'folded' } });
  expect((await loadStitching(db))?.choices.settings.projection).toBe('auto');
});

test('a database of the second version is listed, opened, and undone as before; its pixels are made anew', async () => {
  const project = await variant('p', { deletedAt: 7 });
  const old = await openDB('second', 2, {
    upgrade(second) {
      second.createObjectStore('projects', { keyPath: 'id' });
      second.createObjectStore('sources', { keyPath: 'key' });
      second.createObjectStore('results', { keyPath: 'key' }).createIndex('byUse', 'usedAt');
      second.createObjectStore('stitching', { keyPath: 'key' });
    },
  });
  const stored = JSON.parse(await readFile(new URL('./fixtures/project-v1.json', import.meta.url), 'utf8')) as object;
  await old.put('projects', { ...stored, id: 'p', deletedAt: 7 });
  await old.put('projects', { id: 'broken' });
  await old.put('results', { key: 'k', result: {}, bytes: 3, usedAt: 1 });
  old.close();
  const grown = await openDatabase('second');
  const { projects, damaged } = await listProjects(grown);
  expect(damaged).toBe(1);
  expect(projects).toMatchObject([{ id: 'p', name: project.name, deletedAt: 7, stepCount: 2, isSphere: false }]);
  expect(await loadProject(grown, 'p')).toEqual(project);
  expect([...grown.objectStoreNames]).not.toContain('results');
  grown.close();
});

test('a database of the first version gains what came later and keeps what it has', async () => {
  const project = await frozen();
  const old = await openDB('grown', 1, {
    upgrade(first) {
      first.createObjectStore('projects', { keyPath: 'id' });
      first.createObjectStore('sources', { keyPath: 'key' });
      first.createObjectStore('results', { keyPath: 'key' }).createIndex('byUse', 'usedAt');
    },
  });
  await old.put('projects', project);
  old.close();
  const grown = await openDatabase('grown');
  expect((await loadProject(grown, project.id))?.name).toBe(project.name);
  await saveFrames(grown, []);
  grown.close();
});
