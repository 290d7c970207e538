import { availableParallelism } from 'node:os';
import { openKernels } from '../openKernels.ts';
import type { ThreadedKernels } from '../wasmKernels.ts';
import { startNodeHelper } from './startHelper.ts';

/** Kernels under Node.js, with `threads` threads: by default one for each processor, four at most. */
export function nodeKernels(threads = Math.min(4, availableParallelism())): ThreadedKernels {
  const kernels = openKernels(threads - 1, startNodeHelper);
  kernels.useHelpers(threads > 1);
  return kernels;
}
