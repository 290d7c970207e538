import type { Kernels } from '../core/kernels/kernels.ts';
import { createTwinKernels } from '../core/kernels/twinKernels.ts';
import { createWasmKernels, type StartHelper } from './wasmKernels.ts';

/** Kernels whose helper threads can be left asleep, where others need the processor more. */
export interface OpenKernels extends Kernels {
  useHelpers(on: boolean): void;
  close(): void;
}

/**
 * The fastest kernels that this machine has: WebAssembly with `helpers` further threads, where memory can be shared
 * with them; else without; else (no SIMD or no shared memory at all) the plain ones.
 */
export function openKernels(helpers: number, startHelper: StartHelper): OpenKernels {
  try {
    return createWasmKernels(helpers, startHelper);
  } catch {
    return { ...createTwinKernels(), useHelpers() {}, close() {} };
  }
}
