import { nodeKernels } from '../src/kernels/node/nodeKernels.ts';
import { discMark } from './cost.ts';
import { FIRST_ROUND, rebuild } from './rebuild.ts';
import { boardsPhoto } from './scenes.ts';

/** Another round of takes costs less than the first, once all code that it runs is compiled. */
const LATER_ROUNDS = 3;

/**
 * Makes the named takes of a round by one thread, warmed up by a take, several times; prints the milliseconds by the
 * clock of the first round, and of the fastest later one.
 */
const [width, height, ...takes] = process.argv.slice(2).map(Number) as [number, number, ...number[]];
const kernels = nodeKernels(1);
const photo = boardsPhoto(width, height);
const mark = discMark(photo, 0.04);
rebuild(photo, mark, FIRST_ROUND[0]!, kernels);
const roundMs = (): number => {
  const start = performance.now();
  for (const take of takes) rebuild(photo, mark, FIRST_ROUND[take]!, kernels);
  return performance.now() - start;
};
const first = roundMs();
console.log(first, Math.min(...Array.from({ length: LATER_ROUNDS }, roundMs)));
