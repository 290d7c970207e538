import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bin, ROOT, run } from './prepare.mjs';

const FLAGS = [
  '-O3',
  '--noAssert',
  ...['--runtime', 'stub'],
  ...['--enable', 'simd'],
  ...['--enable', 'threads'],
  '--importMemory',
  '--sharedMemory',
  ...['--initialMemory', '1'],
  ...['--maximumMemory', '16384'],
];

/** Compiles the kernels and writes the module down as text, so that every place that needs it imports it alike. */
export function buildKernels() {
  const generated = join(ROOT, 'src/kernels/generated');
  mkdirSync(generated, { recursive: true });
  const wasm = join(generated, 'kernels.wasm');
  run(bin('asc'), ['src/kernels/assembly/index.ts', '-o', wasm, ...FLAGS]);
  const text = readFileSync(wasm).toString('base64');
  writeFileSync(
    join(generated, 'kernelModule.ts'),
    `/** The compiled kernels (WebAssembly, base64). Made from ../assembly by \`npm run kernels\`. */\nexport const KERNEL_MODULE =\n  '${text}';\n`,
  );
}

if (process.argv[1] === join(ROOT, 'scripts/kernels.mjs')) buildKernels();
