/** Where a computation keeps what its kernels work on: zeroed arrays, all given back at once. */
export interface Scratch {
  bytes(length: number): Uint8Array;
  ints(length: number): Int32Array;
  floats(length: number): Float32Array;
  doubles(length: number): Float64Array;
  /** Returns how to give back all that is taken from now on. */
  hold(): () => void;
}
