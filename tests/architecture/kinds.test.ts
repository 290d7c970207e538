import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { KIND_NAMES } from '../support/kindNames.ts';

// Kinds of steps are known by what they say of themselves. Their names stand in their own folders and in the two lists.

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const LISTS = ['src/operations/kinds.ts', 'src/app/kinds/kindViews.ts'];
const isOwnFolder = (path: string): boolean => /^src\/(operations|app)\/kinds\/\w+\//.test(path);

const filesBelow = (folder: string): string[] =>
  readdirSync(join(ROOT, folder)).flatMap((name) => {
    const path = `${folder}/${name}`;
    if (statSync(join(ROOT, path)).isDirectory()) return name === 'assembly' ? [] : filesBelow(path);
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) ? [relative('.', path)] : [];
  });

const others = filesBelow('src').filter((path) => !isOwnFolder(path) && !LISTS.includes(path));
const textOf = (path: string): string => readFileSync(join(ROOT, path), 'utf8');

/** Lines of a text in which a kind is meant by its name: compared with, chosen by, or handed on as one. */
function linesNaming(text: string, names: readonly string[]): string[] {
  const name = `'(${names.join('|')})'`;
  const meant = new RegExp(
    [`[=!]==? ${name}`, `case ${name}`, `(kind|type|what): ${name}`, `(kind|Kind|Step|Of|Change)\\(${name}`].join('|'),
  );
  return text.split('\n').filter((line) => meant.test(line));
}

test('the list of names is that of the folders, on both sides', () => {
  expect(KIND_NAMES.length).toBeGreaterThan(8);
  for (const list of LISTS)
    for (const name of KIND_NAMES)
      expect(textOf(list)).toContain(`./${list.includes('app') ? '' : 'kinds/'}${name}/index.ts`);
});

test('a line that means a kind by its name is found, one that only uses the word is not', () => {
  const names = ['move', 'text'];
  expect(linesNaming("if (draft.change?.kind === 'move') go();", names)).toHaveLength(1);
  expect(linesNaming("workshop.apply(rendering, kindOf('text'))", names)).toHaveLength(1);
  expect(linesNaming("cursor: hand === 'crop' ? 'move' : 'default', variant: 'text'", names)).toEqual([]);
});

test('no kind is meant by its name outside its own folders and the two lists', () => {
  const found = others.flatMap((path) =>
    linesNaming(textOf(path), KIND_NAMES).map((line) => `${path}: ${line.trim()}`),
  );
  expect(found).toEqual([]);
});

test('nothing but the two lists, and kinds themselves, imports from a kind’s folder', () => {
  const found = others.filter((path) => /from '[^']*\/kinds\/\w+\//.test(textOf(path)));
  expect(found).toEqual([]);
});

test('what a page loads first knows no computation of any kind, nor the fill engine', () => {
  const seen = new Set<string>();
  const visit = (path: string): void => {
    if (seen.has(path)) return;
    seen.add(path);
    for (const [, specifier] of textOf(path).matchAll(/(?:^|\n)(?:import|export)\s(?!type\b)[^;]*?from '(\.[^']+)'/g)) {
      const target = relative('.', join(path, '..', specifier!.split('?')[0]!));
      if (/\.tsx?$/.test(target)) visit(target);
    }
  };
  visit('src/app/main.tsx');
  visit('src/app/features/bench/BenchPage.tsx');
  expect(seen.size).toBeGreaterThan(60);
  expect([...seen].filter((path) => /kinds\/\w+\/(compute|command)\.ts$|core\/fill\/fill\.ts$/.test(path))).toEqual([]);
});
