import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
const CACHE = join(ROOT, '.cache');
const KERNEL_MODULE = join(ROOT, 'src', 'kernels', 'generated', 'kernelModule.ts');
const KERNEL_FLAGS = [
  '-O3',
  '--noAssert',
  ...['--runtime', 'stub'],
  ...['--enable', 'simd'],
  ...['--enable', 'threads'],
  '--importMemory',
  '--sharedMemory',
  // Tables of the standard library lie behind the orders that threads share.
  ...['--memoryBase', '4096'],
  ...['--initialMemory', '1'],
  ...['--maximumMemory', '16384'],
];

/** Runs a program in the project's folder with its output shown; throws when it fails. */
export function run(program, args) {
  execFileSync(program, args, { cwd: ROOT, stdio: 'inherit' });
}

/** The path of a program that came with the packages. */
export const bin = (name) => join(ROOT, 'node_modules', '.bin', name);

/** Installs the packages unless exactly these were installed before. */
export function installPackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(join(ROOT, 'node_modules')) && stampOf('packages') === wanted) return;
  console.log('Installing packages');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  stamp('packages', wanted);
}

/**
 * Compiles the kernels and writes the module down as text, so that every place that needs it imports it alike; does
 * nothing when they have not changed.
 */
export function buildKernels() {
  const hash = createHash('sha256').update(KERNEL_FLAGS.join(' '));
  for (const place of ['src/kernels/assembly', 'package-lock.json']) addTo(hash, place);
  const wanted = hash.digest('hex');
  if (existsSync(KERNEL_MODULE) && stampOf('kernels') === wanted) return;
  mkdirSync(dirname(KERNEL_MODULE), { recursive: true });
  const wasm = KERNEL_MODULE.replace('kernelModule.ts', 'kernels.wasm');
  run(bin('asc'), ['src/kernels/assembly/index.ts', '-o', wasm, ...KERNEL_FLAGS]);
  const text = readFileSync(wasm).toString('base64');
  const about = '/** The compiled kernels (WebAssembly, base64). Made from ../assembly by `npm run kernels`. */';
  writeFileSync(KERNEL_MODULE, `${about}\nexport const KERNEL_MODULE =\n  '${text}';\n`);
  stamp('kernels', wanted);
}

/** Builds the application unless nothing it is made of has changed since. */
export function buildApplication() {
  buildKernels();
  const hash = createHash('sha256');
  for (const place of ['src', 'demo/public', 'index.html', 'vite.config.ts', 'package-lock.json']) addTo(hash, place);
  const wanted = hash.digest('hex');
  if (existsSync(join(ROOT, 'dist', 'index.html')) && stampOf('build') === wanted) return;
  console.log('Building Fingo');
  run(bin('vite'), ['build', '--logLevel', 'warn']);
  stamp('build', wanted);
}

function addTo(hash, place) {
  const path = join(ROOT, place);
  const info = statSync(path);
  if (info.isDirectory()) {
    for (const name of readdirSync(path).sort()) addTo(hash, join(place, name));
    return;
  }
  hash.update(place);
  // Pictures are told by size and date; hashing them would cost more than it saves.
  if (place.endsWith('.jpg')) hash.update(`${info.size}`);
  else hash.update(readFileSync(path));
}

const stampOf = (name) => {
  const path = join(CACHE, name);
  return existsSync(path) ? readFileSync(path, 'utf8') : '';
};

function stamp(name, value) {
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(join(CACHE, name), value);
}
