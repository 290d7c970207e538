import { serveKernels, type SharedModule } from '../serveKernels.ts';

/** A helper thread of the kernels: serves the module over the shared memory until it is ended. */
onmessage = ({ data }: MessageEvent<SharedModule>) => serveKernels(data);
