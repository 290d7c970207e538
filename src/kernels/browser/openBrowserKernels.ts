import { openKernels } from '../openKernels.ts';
import type { ThreadedKernels } from '../wasmKernels.ts';
import { startBrowserHelper } from './startHelper.ts';

const MAX_HELPERS = 3;

/** The kernels of a worker. Memory can be handed to further threads only where the page is isolated from others. */
export const openBrowserKernels = (): ThreadedKernels =>
  openKernels(crossOriginIsolated ? Math.min(MAX_HELPERS, navigator.hardwareConcurrency - 1) : 0, startBrowserHelper);
