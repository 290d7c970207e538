// Installs what is missing, builds what has changed, starts the server. Arguments are the server's: --port N, --host A.
import { spawn } from 'node:child_process';
import { bin, buildApplication, installPackages, ROOT } from './prepare.mjs';

if (Number(process.versions.node.split('.')[0]) < 20) {
  console.error(`Fingo needs Node.js 20 or newer; this is ${process.version}.`);
  process.exit(2);
}
try {
  installPackages();
  buildApplication();
} catch {
  console.error('Fingo could not be set up; the lines above say what failed. Mend that and run the command again.');
  process.exit(1);
}
const server = spawn(bin('tsx'), ['src/server/main.ts', ...process.argv.slice(2)], { cwd: ROOT, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
