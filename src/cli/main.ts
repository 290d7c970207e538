import { runFingo } from './program.ts';

const code = await runFingo(process.argv.slice(2));
if (code !== 0) process.exit(code);
