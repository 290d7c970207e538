import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

const SRC = fileURLToPath(new URL('../../src', import.meta.url));

/** Which folders of src each one may import, itself always. */
const MAY_IMPORT: Record<string, readonly string[]> = {
  core: [],
  operations: ['core'],
  kernels: ['core'],
  formats: ['core', 'operations'],
  // The pool's only knowledge of its worker is the worker's type.
  engine: ['core', 'operations', 'workers', 'vision'],
  storage: ['core', 'operations', 'engine'],
  workers: ['core', 'operations', 'kernels', 'engine', 'formats', 'vision'],
  app: ['core', 'operations', 'engine', 'storage', 'formats', 'workers'],
  cli: ['core', 'operations', 'kernels', 'engine', 'formats', 'vision'],
  vision: ['core'],
  server: [],
};

function filesBelow(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    // Kernels in AssemblyScript are another language, with imports of its own.
    if (name === 'assembly') return [];
    if (statSync(path).isDirectory()) return filesBelow(path);
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) ? [path] : [];
  });
}

/** What each file imports, type imports included: paths for our own, names for packages. */
function importsOf(path: string): { own: string[]; packages: string[] } {
  const specifiers = [...readFileSync(path, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)].map((m) => m[1]!);
  return {
    own: specifiers.filter((s) => s.startsWith('.')).map((s) => resolve(dirname(path), s)),
    packages: specifiers.filter((s) => !s.startsWith('.')),
  };
}

const graph = new Map(filesBelow(SRC).map((path) => [path, importsOf(path)]));
const layerOf = (path: string): string => relative(SRC, path).split('/')[0]!;

test('the graph is not empty and every import leads to a file', () => {
  expect(graph.size).toBeGreaterThan(80);
  for (const { own } of graph.values()) {
    for (const target of own) expect(graph.has(target) ? '' : relative(SRC, target)).toBe('');
  }
});

test('each layer imports only what lies below it', () => {
  const wrong: string[] = [];
  for (const [path, { own }] of graph) {
    for (const target of own) {
      const [from, to] = [layerOf(path), layerOf(target)];
      if (from !== to && !MAY_IMPORT[from]!.includes(to))
        wrong.push(`${relative(SRC, path)} -> ${relative(SRC, target)}`);
    }
  }
  expect(wrong).toEqual([]);
});

/** Packages of pure numbers, and of structures for them, that the core may build on. */
const NUMERIC = ['d3-contour', 'd3-polygon', 'flatqueue', 'ml-matrix'];

test('the core imports none but numeric packages, and no layer below the interface knows React', () => {
  const wrong: string[] = [];
  for (const [path, { packages }] of graph) {
    const layer = layerOf(path);
    for (const name of packages) {
      if ((layer === 'core' && !NUMERIC.includes(name)) || (layer !== 'app' && /^(react|@mui|@reduxjs)/.test(name))) {
        wrong.push(`${relative(SRC, path)}: ${name}`);
      }
    }
  }
  expect(wrong).toEqual([]);
});

test('no file imports itself by way of others', () => {
  const state = new Map<string, 'open' | 'done'>();
  const cycles: string[] = [];
  const visit = (path: string, trail: readonly string[]): void => {
    if (state.get(path) === 'done') return;
    if (state.get(path) === 'open') {
      cycles.push([...trail.slice(trail.indexOf(path)), path].map((p) => relative(SRC, p)).join(' -> '));
      return;
    }
    state.set(path, 'open');
    for (const target of graph.get(path)?.own ?? []) visit(target, [...trail, path]);
    state.set(path, 'done');
  };
  for (const path of graph.keys()) visit(path, []);
  expect(cycles).toEqual([]);
});
