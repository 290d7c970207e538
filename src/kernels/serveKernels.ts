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

/** Work of the core's own code in words, and how far it is where it is done beside (otherwise any number). */
interface Order {
  words: string;
  state: Int32Array;
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
  /** What is ordered, before something else is. */
  const readOrder = (): Order => {
    const [at, length, bytes, stateAt] = told;
    let { buffer } = memory;
    // That the memory has grown is not seen at once here.
    while (buffer.byteLength < bytes!) ({ buffer } = memory);
    return { words: wordsAt(buffer, at!, length!), state: new Int32Array(buffer, stateAt, 1) };
  };
  const understand = ({ words, state: { buffer } }: Order): ((band: number) => void) => {
    if (last?.words !== words) last = { words, work: hear(buffer, words) };
    const { name, input } = last.work;
    heard.set(name, input);
    const work = SHARED_WORK.get(name)!;
    return (band) => work.band(input as never, band);
  };
  const serveBands = (): void => {
    try {
      const work = understand(readOrder());
      for (let band = takeBand(); band >= 0; band = takeBand()) work(band);
    } catch {
      Atomics.add(control, CONTROL.failures / 4, 1);
    } finally {
      leave();
    }
  };
  const serveBeside = (): void => {
    const order = takeBand() === 0 ? readOrder() : undefined;
    // The others go on, and order something else.
    leave();
    if (!order) return;
    let outcome: number = BESIDE.done;
    try {
      understand(order)(0);
    } catch {
      outcome = BESIDE.failed;
    }
    Atomics.store(order.state, 0, outcome);
    Atomics.notify(order.state, 0);
  };
  let seen = enter();
  for (;;) {
    seen = serve(seen);
    if (told[3] === 0) serveBands();
    else serveBeside();
  }
}
