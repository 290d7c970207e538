/** A helper thread of the kernels: instantiates the module over the shared memory and serves until it is ended. */
onmessage = ({ data }: MessageEvent<{ module: WebAssembly.Module; memory: WebAssembly.Memory }>) => {
  const { exports } = new WebAssembly.Instance(data.module, { env: { memory: data.memory } });
  (exports as unknown as { serve(): void }).serve();
};
