/** A helper thread of the kernels: instantiates the module over the shared memory and serves until it is ended. */
import { workerData } from 'node:worker_threads';

const { module, memory } = workerData;
new WebAssembly.Instance(module, { env: { memory } }).exports.serve();
