import { FingoError } from '../core/errors.ts';
import type { SharedArray } from '../core/kernels/kernels.ts';
import type { Scratch } from '../core/kernels/scratch.ts';

const PAGE_BYTES = 65536;
/** Every array begins at a multiple of this, as whole vectors are read. */
const ALIGNMENT = 16;

export interface Arena extends Scratch {
  reset(): void;
  copyOf<A extends SharedArray>(array: A): A;
  /** What lies in them is what was left there. */
  unsetFloats(length: number): Float32Array;
}

/**
 * Hands out zeroed arrays from a WebAssembly memory, one after the other from `base` on; `reset` takes all back. `clear`
 * zeroes bytes of it.
 */
export function createArena(
  memory: WebAssembly.Memory,
  base: number,
  clear: (at: number, bytes: number) => void,
): Arena {
  let next = base;
  const take = (bytes: number): number => {
    const at = next;
    next = Math.ceil((at + bytes) / ALIGNMENT) * ALIGNMENT;
    const missing = next - memory.buffer.byteLength;
    if (missing > 0) {
      try {
        memory.grow(Math.ceil(missing / PAGE_BYTES));
      } catch {
        throw new FingoError('out-of-memory', 'There is not enough memory for this mark; make it smaller.');
      }
    }
    return at;
  };
  const takeZeroed = (bytes: number): number => {
    const at = take(bytes);
    clear(at, bytes);
    return at;
  };
  // The buffer is asked for after taking: growth makes another one.
  return {
    bytes(length) {
      const at = takeZeroed(length);
      return new Uint8Array(memory.buffer, at, length);
    },
    ints(length) {
      const at = takeZeroed(4 * length);
      return new Int32Array(memory.buffer, at, length);
    },
    floats(length) {
      const at = takeZeroed(4 * length);
      return new Float32Array(memory.buffer, at, length);
    },
    unsetFloats(length) {
      const at = take(4 * length);
      return new Float32Array(memory.buffer, at, length);
    },
    doubles(length) {
      const at = takeZeroed(8 * length);
      return new Float64Array(memory.buffer, at, length);
    },
    copyOf(array) {
      const make = array.constructor as new (buffer: ArrayBufferLike, at: number, length: number) => typeof array;
      const at = take(array.byteLength);
      const copy = new make(memory.buffer, at, array.length);
      copy.set(array);
      return copy;
    },
    hold() {
      const from = next;
      return () => (next = from);
    },
    reset() {
      next = base;
    },
  };
}
