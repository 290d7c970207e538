// Sets everything up and runs every check: types, lint, unit and architecture tests, the interface in Chromium.
// Closes with "N passed, N failed", counting each check and each test.
import { execFile, execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, buildApplication, installPackages, ROOT } from './prepare.mjs';

const RESULTS = join(ROOT, 'test-results');
let passed = 0;
let failed = 0;

function count(ok, bad) {
  passed += ok;
  failed += bad;
}

/** Runs checks that only pass or fail, side by side; what each has to say is shown when it ends. */
async function checkAll(checks) {
  const run = ([name, program, args]) =>
    new Promise((resolve) => {
      execFile(program, args, { cwd: ROOT, maxBuffer: 2 ** 26 }, (error, out, err) => {
        console.log(`\n${name}: ${error ? 'failed' : 'passed'}\n${out}${err}`.trimEnd());
        count(error ? 0 : 1, error ? 1 : 0);
        resolve();
      });
    });
  await Promise.all(checks.map(run));
}

/** Runs tests that leave a report; a run that leaves none counts as one failure. */
function suite(name, program, args, report, read) {
  console.log(`\n${name}`);
  rmSync(report, { force: true });
  const { status } = spawnSync(program, args, { cwd: ROOT, stdio: 'inherit' });
  if (!existsSync(report)) return count(0, 1);
  const [ok, bad] = read(JSON.parse(readFileSync(report, 'utf8')));
  // A run can fail without a failing test, by a broken set-up for instance.
  count(ok, status !== 0 && bad === 0 ? 1 : bad);
}

/** What the tests need beside the packages of npm: a browser, and a reader of metadata that is not our own. */
const DEBIAN_PACKAGES = [
  { name: 'chromium-headless-shell', program: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell' },
  { name: 'libimage-exiftool-perl', program: '/usr/bin/exiftool' },
];
/** What will do where a package can't be had. */
const INSTEAD = { 'chromium-headless-shell': '/usr/bin/chromium' };

function requireDebianPackages() {
  const missing = DEBIAN_PACKAGES.filter(({ program }) => !existsSync(program)).map(({ name }) => name);
  if (missing.length === 0) return;
  console.log(`Installing ${missing.join(', ')}`);
  try {
    execFileSync('apt-get', ['update', '-qq'], { stdio: 'inherit' });
    execFileSync('apt-get', ['install', '-y', '-qq', ...missing], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  } catch {
    if (missing.every((name) => name in INSTEAD && existsSync(INSTEAD[name]))) return;
    console.error(`Install ${missing.join(', ')} from Debian, then run the tests again.`);
    console.log('0 passed, 1 failed');
    process.exit(1);
  }
}

try {
  installPackages();
  requireDebianPackages();
  buildApplication();
} catch {
  console.error('The tests could not be set up; the lines above say what failed.');
  console.log('0 passed, 1 failed');
  process.exit(1);
}

mkdirSync(RESULTS, { recursive: true });
await checkAll([
  ['Types', bin('tsc'), ['--noEmit']],
  ['Types of the core, without a browser', bin('tsc'), ['--project', 'tsconfig.core.json']],
  ['Lint', bin('eslint'), ['.']],
  ['Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
]);

const unitReport = join(RESULTS, 'unit.json');
suite(
  'Unit and architecture tests',
  process.execPath,
  [
    '--experimental-vm-modules',
    '--no-warnings',
    'node_modules/jest/bin/jest.js',
    '--json',
    `--outputFile=${unitReport}`,
  ],
  unitReport,
  (report) => [report.numPassedTests, report.numFailedTests + report.numRuntimeErrorTestSuites],
);
const e2eReport = join(RESULTS, 'e2e.json');
suite(
  'The interface in Chromium',
  bin('playwright'),
  ['test', '--config', 'tests/e2e.config.ts'],
  e2eReport,
  (report) => [report.stats.expected + report.stats.flaky, report.stats.unexpected],
);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
