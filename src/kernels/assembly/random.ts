/** A stream of 32-bit numbers of its own for every (seed, pass, target): the order of work does not matter. */
@inline
export function startRandom(seed: u32, pass: u32, target: u32): u32 {
  let h = (seed ^ (pass * 0x9e3779b9) ^ (target * 0x85ebca6b)) * 0xc2b2ae35;
  h ^= h >> 15;
  h *= 0x27d4eb2f;
  h ^= h >> 13;
  return h !== 0 ? h : 0x1234567;
}

/** Marsaglia's xorshift. */
@inline
export function nextRandom(state: u32): u32 {
  state ^= state << 13;
  state ^= state >> 17;
  state ^= state << 5;
  return state;
}
