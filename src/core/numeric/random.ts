/** A stream of 32-bit numbers from a seed: the same seed gives the same stream everywhere. */
export interface RandomStream {
  /** A whole number in [0, below). `below` at most 2^31. */
  below(below: number): number;
}

/** One step of Marsaglia's 32-bit xorshift (Journal of Statistical Software, 2003). */
export function nextRandom(state: number): number {
  state ^= state << 13;
  state ^= state >>> 17;
  return state ^ (state << 5);
}

/** A xorshift stream, seeded through one multiply-xor round. */
export function createRandom(seed: number): RandomStream {
  let state = Math.imul((seed | 0) ^ 0x9e3779b9, 0x85ebca6b) | 0 || 0x1234567;
  return {
    below(below) {
      state = nextRandom(state);
      return (state >>> 0) % below;
    },
  };
}

/** The state from which the numbers of one target in one pass are drawn: none depends on another target's. */
export function startRandom(seed: number, pass: number, target: number): number {
  let h = Math.imul(seed ^ Math.imul(pass, 0x9e3779b9) ^ Math.imul(target, 0x85ebca6b), 0xc2b2ae35);
  h ^= h >>> 15;
  h = Math.imul(h, 0x27d4eb2f);
  return h ^ (h >>> 13) || 0x1234567;
}
