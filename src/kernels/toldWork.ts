import type { SharedArray } from '../core/kernels/kernels.ts';

/** Work of the core's own code, and what it is done on. */
export interface OwnWork {
  name: string;
  input: unknown;
}

/** Kinds of arrays, by their names. */
const ARRAYS = { Uint8Array, Uint8ClampedArray, Int32Array, Float32Array, Float64Array };

/** An array in the shared memory, told by where it lies. */
interface ToldArray {
  $array: keyof typeof ARRAYS;
  at: number;
  length: number;
}

/** Whether helper threads see an array; all that is shared in a thread is the kernels' memory. */
// Asked for by name: pages that share no memory with threads lack the class, though not the kernels' own memory.
export const isShared = ({ buffer }: SharedArray): boolean =>
  Object.prototype.toString.call(buffer) === '[object SharedArrayBuffer]';

class NotShareable extends Error {}

/**
 * Work in words for other threads (UTF-8 of JSON), arrays by where they lie in the shared memory. Undefined where that
 * cannot be: an array lies elsewhere, or something is a function.
 */
export function tell(work: OwnWork): Uint8Array | undefined {
  try {
    return new TextEncoder().encode(JSON.stringify(work, told));
  } catch (error) {
    if (error instanceof NotShareable) return undefined;
    throw error;
  }
}

function told(_key: string, value: unknown): unknown {
  if (typeof value === 'function') throw new NotShareable();
  // What JSON has no word for.
  if (typeof value === 'number' && !Number.isFinite(value)) return { $number: String(value) };
  if (!ArrayBuffer.isView(value)) return value;
  const array = value as SharedArray;
  if (!isShared(array)) throw new NotShareable();
  const told: ToldArray = {
    $array: array.constructor.name as ToldArray['$array'],
    at: array.byteOffset,
    length: array.length,
  };
  return told;
}

/** Words of `length` bytes from `at` on. Decoders take no shared memory. */
export const wordsAt = (buffer: ArrayBufferLike, at: number, length: number): string =>
  new TextDecoder().decode(new Uint8Array(buffer, at, length).slice());

/** What was told in words, its arrays in `buffer`. */
export function hear(buffer: ArrayBufferLike, words: string): OwnWork {
  return JSON.parse(words, (_key, value: unknown) => {
    if (typeof value !== 'object' || value === null) return value;
    if ('$number' in value) return Number(value.$number);
    if (!('$array' in value)) return value;
    const { $array, at, length } = value as ToldArray;
    return new ARRAYS[$array](buffer as ArrayBuffer, at, length);
  }) as OwnWork;
}
