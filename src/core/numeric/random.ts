/** A stream of 32-bit numbers from a seed: the same seed gives the same stream everywhere. */
export interface RandomStream {
  /** A whole number in [0, below). `below` at most 2^31. */
  below(below: number): number;
}

/** Marsaglia's 32-bit xorshift (Journal of Statistical Software, 2003), seeded through one multiply-xor round. */
export function createRandom(seed: number): RandomStream {
  let state = Math.imul((seed | 0) ^ 0x9e3779b9, 0x85ebca6b) | 0 || 0x1234567;
  return {
    below(below) {
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      return (state >>> 0) % below;
    },
  };
}
