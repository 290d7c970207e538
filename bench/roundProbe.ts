import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { discMark } from './cost.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { boardsPhoto } from './scenes.ts';

/** Makes the named takes of a first round by one thread, warmed up once; prints the milliseconds by the clock. */
const [width, height, ...takes] = process.argv.slice(2).map(Number) as [number, number, ...number[]];
const kernels = nodeKernels(1);
const photo = boardsPhoto(width, height);
const mark = discMark(photo, 0.04);
rebuild(photo, mark, FIRST_ROUND[0]!, kernels);
const start = performance.now();
for (const take of takes) rebuild(photo, mark, FIRST_ROUND[take]!, kernels);
console.log(performance.now() - start);
