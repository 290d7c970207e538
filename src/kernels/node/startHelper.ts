import { Worker } from 'node:worker_threads';
import type { StartHelper } from '../wasmKernels.ts';

/** A helper thread under Node.js; it does not keep the process alive. */
export const startNodeHelper: StartHelper = (module, memory) => {
  const worker = new Worker(new URL('./kernelHelper.mjs', import.meta.url), {
    workerData: { module, memory },
    execArgv: [],
  });
  worker.unref();
  return () => void worker.terminate();
};
