import { availableParallelism } from 'node:os';
import { openKernels, type OpenKernels } from '../openKernels.ts';
import { startNodeHelper } from './startHelper.ts';

/** Kernels under Node.js, with `threads` threads: by default one for each processor, four at most. */
export const nodeKernels = (threads = Math.min(4, availableParallelism())): OpenKernels =>
  openKernels(threads - 1, startNodeHelper);
