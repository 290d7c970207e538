import { nodeKernels } from '../../src/kernels/node/nodeKernels.ts';

/** The kernels that tests of what is built on them use: WebAssembly, in this thread alone. */
export const kernels = nodeKernels(1);
