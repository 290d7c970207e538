import 'fake-indexeddb/auto';
import { projectOf } from '../../../../tests/support/project.ts';
import { openDatabase, type FingoDatabase } from '../../../storage/database.ts';
import { loadProject, loadSource, saveProject, saveSource } from '../../../storage/projects.ts';
import { createAppStore, type AppStore } from '../../store/store.ts';
import { startAutosave } from '../../store/autosave.ts';
import { savesSettled } from '../../store/savesSettled.ts';
import { benchActions, benchSlice } from '../../state/benchSlice.ts';
import {
  deleteProject,
  duplicateProject,
  refreshProjects,
  renameProject,
  restoreProject,
  sweepDeleted,
} from './projectActions.ts';

// What autosave needs of a page.
const page = new EventTarget();
Object.assign(globalThis, {
  document: page,
  addEventListener: page.addEventListener.bind(page),
  removeEventListener: page.removeEventListener.bind(page),
});

/** Steps that are noted before they are saved. */
const noted = new Map<string, string>();
const notes = {
  getItem: (key: string) => noted.get(key) ?? null,
  setItem: (key: string, value: string) => void noted.set(key, value),
  removeItem: (key: string) => void noted.delete(key),
};

let db: FingoDatabase;
let store: AppStore;
let count = 0;
const names = (): string[] => store.getState().projects.projects.map((project) => project.name);

beforeEach(async () => {
  db = await openDatabase(`projects-${count++}`);
  store = createAppStore();
  store.bringIn(benchSlice);
  await saveSource(db, 'k', new Blob(['x']));
  await saveProject(db, projectOf());
  await refreshProjects(store, db);
});
afterEach(() => db.close());

test('renaming takes what is written, but no empty name', async () => {
  await renameProject(store, db, 'p', '  Spring fair ');
  expect(names()).toEqual(['Spring fair']);
  await renameProject(store, db, 'p', '   ');
  expect(names()).toEqual(['Spring fair']);
});

test('a duplicate is another project of the same original', async () => {
  await duplicateProject(store, db, 'p');
  expect(names().sort()).toEqual(['quay', 'quay (copy)']);
  const copy = store.getState().projects.projects.find(({ name }) => name === 'quay (copy)')!;
  expect(copy.id).not.toBe('p');
  expect(copy.sourceKey).toBe('k');
});

test('a deleted project is gone from the list, can be brought back, and only later goes for good', async () => {
  await deleteProject(store, db, 'p');
  expect(names()).toEqual([]);
  await sweepDeleted(db);
  await restoreProject(store, db, 'p');
  expect(names()).toEqual(['quay']);
  await saveProject(db, projectOf({ deletedAt: Date.now() - 3_600_000 }));
  await sweepDeleted(db);
  expect(await loadProject(db, 'p')).toBeUndefined();
  expect(await loadSource(db, 'k')).toBeUndefined();
});

test('what is changed is saved soon after, and the list waits for it', async () => {
  store.dispatch(benchActions.projectOpened(projectOf()));
  const stop = startAutosave(store, db, notes);
  store.dispatch(benchActions.projectRenamed('Autumn fair'));
  void stop();
  await refreshProjects(store, db);
  expect(names()).toEqual(['Autumn fair']);
});

test('leaving the page saves at once', async () => {
  store.dispatch(benchActions.projectOpened(projectOf()));
  const stop = startAutosave(store, db, notes);
  store.dispatch(benchActions.projectRenamed('Winter fair'));
  page.dispatchEvent(new Event('pagehide'));
  await savesSettled();
  expect((await loadProject(db, 'p'))!.name).toBe('Winter fair');
  await stop();
});

test('many changes in a row are written once, the last one wins', async () => {
  store.dispatch(benchActions.projectOpened(projectOf()));
  const stop = startAutosave(store, db, notes);
  for (let i = 0; i < 20; i++) store.dispatch(benchActions.projectRenamed(`name ${i}`));
  await new Promise((resolve) => setTimeout(resolve, 250));
  await savesSettled();
  expect((await loadProject(db, 'p'))!.name).toBe('name 19');
  await stop();
});
