import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const FIXTURE = join(ROOT, 'tests/fixtures/extension');

/** What is written into existing files to add a kind of step and a format: their names, each in its list. */
const LINES = [
  {
    list: 'operations/kinds.ts',
    imports: "import { negative } from './kinds/negative/index.ts';",
    before: '\n);\n\ntype ChangeOf',
    line: "  [negative, () => import('./kinds/negative/compute.ts'), () => import('./kinds/negative/command.ts')],",
  },
  {
    list: 'app/kinds/kindViews.ts',
    imports: "import { negativeView } from './negative/index.tsx';",
    before: '\n];',
    line: '  negativeView,',
  },
  {
    list: 'formats/formats.ts',
    imports: "import { plain } from './kinds/plain.ts';",
    before: '];\n\nexport type WritableFormat',
    line: ', plain',
  },
];

/**
 * A copy of the source to which a made-up kind of step and a made-up format have been added: two folders and a line in
 * each of two lists; one file and a line. Returns its folder.
 */
export function extendedSource(): string {
  const folder = join(ROOT, 'dist-extended');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  cpSync(join(ROOT, 'src'), join(folder, 'src'), {
    recursive: true,
    filter: (path) => !/\.test\.tsx?$/.test(path),
  });
  for (const file of ['index.html', 'vite.config.ts']) cpSync(join(ROOT, file), join(folder, file));
  cpSync(FIXTURE, join(folder, 'src'), { recursive: true });
  for (const { list, imports, before, line } of LINES) {
    const path = join(folder, 'src', list);
    const text = readFileSync(path, 'utf8');
    if (text.split(before).length !== 2) throw new Error(`Where to add to ${list} is not clear.`);
    writeFileSync(
      path,
      `${imports}\n${text.replace(before, `${before.startsWith('\n') ? '\n' : ''}${line}${before}`)}`,
    );
  }
  const tsconfig = JSON.parse(readFileSync(join(ROOT, 'tsconfig.json'), 'utf8')) as { exclude: string[] };
  writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ ...tsconfig, include: ['src'] }));
  if (!existsSync(join(folder, 'src/operations/kinds/negative'))) throw new Error('The made-up kind is missing.');
  return folder;
}
