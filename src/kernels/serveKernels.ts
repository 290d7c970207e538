import { SHARED_WORK } from '../core/fill/sharedWork.ts';
import { hear, wordsAt, type OwnWork } from './toldWork.ts';
import { ARENA_BASE, BESIDE, CONTROL } from './control.ts';

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
  const told = control.subarray(CONTROL.arguments / 4);
  // What was heard last is kept: V8 forgets a kind of object with its last, and the code compiled for it with that.
  const heard = new Map<string, unknown>();
  // Work in several turns is told in the same words.
  let last: { words: string; work: OwnWork } | undefined;
  const hearWork = (): { band: (band: number) => void; buffer: ArrayBuffer } => {
    const [at, length, bytes] = told;
    let { buffer } = memory;
    // That the memory has grown is not seen at once here.
    while (buffer.byteLength < bytes!) ({ buffer } = memory);
    const words = wordsAt(buffer, at!, length!);
    if (last?.words !== words) last = { words, work: hear(buffer, words) };
    const { name, input } = last.work;
    heard.set(name, input);
    const work = SHARED_WORK.get(name)!;
    return { band: (band) => work.band(input as never, band), buffer: buffer as ArrayBuffer };
  };
  const serveBands = (): void => {
    try {
      const work = hearWork();
      for (let band = takeBand(); band >= 0; band = takeBand()) work.band(band);
    } catch {
      Atomics.add(control, CONTROL.failures / 4, 1);
    } finally {
      leave();
    }
  };
  const serveBeside = (): void => {
    let begun: { band: (band: number) => void; state: Int32Array } | undefined;
    try {
      const { band, buffer } = hearWork();
      const state = new Int32Array(buffer, told[3], 1);
      if (takeBand() === 0) begun = { band, state };
    } catch {
      // What is not taken the caller does itself.
    } finally {
      // The others go on, and order something else.
      leave();
    }
    if (!begun) return;
    let outcome: number = BESIDE.done;
    try {
      begun.band(0);
    } catch {
      outcome = BESIDE.failed;
    }
    Atomics.store(begun.state, 0, outcome);
    Atomics.notify(begun.state, 0);
  };
  let seen = enter();
  for (;;) {
    seen = serve(seen);
    if (told[3] === 0) serveBands();
    else serveBeside();
  }
}
