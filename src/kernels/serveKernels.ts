import { SHARED_WORK } from '../core/fill/sharedWork.ts';
import { hear, wordsAt, type OwnWork } from './toldWork.ts';
import { ARENA_BASE, CONTROL } from './control.ts';

export interface SharedModule {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
}

interface ServingExports {
  enter(): number;
  serve(seen: number): number;
  takeBand(): number;
  leave(): void;
}

/** A helper thread's life: takes bands of kernels and of the core's own code whenever some are ordered. Never returns. */
export function serveKernels({ module, memory }: SharedModule): never {
  const { exports } = new WebAssembly.Instance(module, { env: { memory } });
  const { enter, serve, takeBand, leave } = exports as unknown as ServingExports;
  const control = new Int32Array(memory.buffer, 0, ARENA_BASE / 4);
  // What was heard last is kept: V8 forgets a kind of object with its last, and the code compiled for it with that.
  const heard = new Map<string, unknown>();
  // Work in several turns is told in the same words.
  let last: { words: string; work: OwnWork } | undefined;
  let seen = enter();
  for (;;) {
    seen = serve(seen);
    try {
      const [at, length, bytes] = control.subarray(CONTROL.arguments / 4);
      let { buffer } = memory;
      // That the memory has grown is not seen at once here.
      while (buffer.byteLength < bytes!) ({ buffer } = memory);
      const words = wordsAt(buffer, at!, length!);
      if (last?.words !== words) last = { words, work: hear(buffer, words) };
      const { name, input } = last.work;
      heard.set(name, input);
      const work = SHARED_WORK.get(name)!;
      for (let band = takeBand(); band >= 0; band = takeBand()) work.band(input as never, band);
    } catch {
      Atomics.add(control, CONTROL.failures / 4, 1);
    } finally {
      leave();
    }
  }
}
