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
  const [at, length, bytes, state] = [0, 1, 2, 3].map((k) => CONTROL.arguments / 4 + k) as [
    number,
    number,
    number,
    number,
  ];
  // What was heard last is kept: V8 forgets a kind of object with its last, and the code compiled for it with that.
  const heard = new Map<string, unknown>();
  // Work in several turns is told in the same words.
  let last: { words: string; work: OwnWork } | undefined;
  const wholeMemory = (): ArrayBufferLike => {
    let { buffer } = memory;
    // That the memory has grown is not seen at once here.
    while (buffer.byteLength < control[bytes]!) ({ buffer } = memory);
    return buffer;
  };
  const hearWork = (buffer: ArrayBufferLike): ((band: number) => void) => {
    const words = wordsAt(buffer, control[at]!, control[length]!);
    if (last?.words !== words) last = { words, work: hear(buffer, words) };
    const { name, input } = last.work;
    heard.set(name, input);
    const work = SHARED_WORK.get(name)!;
    return (band) => work.band(input as never, band);
  };
  const serveBands = (): void => {
    try {
      const work = hearWork(wholeMemory());
      for (let band = takeBand(); band >= 0; band = takeBand()) work(band);
    } catch {
      Atomics.add(control, CONTROL.failures / 4, 1);
    } finally {
      leave();
    }
  };
  // The others go on as soon as the work is taken, and order something else.
  const serveBeside = (): void => {
    let begun: { work: (band: number) => void; state: Int32Array } | undefined;
    try {
      const buffer = wholeMemory();
      const work = hearWork(buffer);
      const told = new Int32Array(buffer as ArrayBuffer, control[state]!, 1);
      if (takeBand() === 0) begun = { work, state: told };
    } finally {
      leave();
    }
    if (!begun) return;
    let outcome: number = BESIDE.done;
    try {
      begun.work(0);
    } catch {
      outcome = BESIDE.failed;
    }
    Atomics.store(begun.state, 0, outcome);
    Atomics.notify(begun.state, 0);
  };
  let seen = enter();
  for (;;) {
    seen = serve(seen);
    if (control[state] === 0) serveBands();
    else serveBeside();
  }
}
