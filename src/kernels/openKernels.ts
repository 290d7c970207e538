import { createTwinKernels } from '../core/kernels/twinKernels.ts';
import { createWasmKernels, type StartHelper, type ThreadedKernels } from './wasmKernels.ts';

/**
 * The fastest kernels that this machine has: WebAssembly with `helpers` further threads, where memory can be shared
 * with them; else without; else (no SIMD or no shared memory at all) the plain ones.
 */
export function openKernels(helpers: number, startHelper: StartHelper): ThreadedKernels {
  try {
    return createWasmKernels(helpers, startHelper);
  } catch {
    return { ...createTwinKernels(), useHelpers() {}, helpersReady: () => 0, close() {} };
  }
}
