/** A helper thread of the kernels: serves the module over the shared memory until it is ended. */
import { workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

// The core's own code is TypeScript, whatever read the rest of the process.
register();
const { serveKernels } = await import('../serveKernels.ts');
serveKernels(workerData);
