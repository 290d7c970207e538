import type { StartHelper } from '../wasmKernels.ts';

/** A helper thread in the browser: a worker of the worker that asks, which ends with it. */
export const startBrowserHelper: StartHelper = (module, memory) => {
  const worker = new Worker(new URL('./kernelHelper.worker.ts', import.meta.url), { type: 'module' });
  worker.postMessage({ module, memory });
  return () => worker.terminate();
};
