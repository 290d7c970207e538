/** Beyond this e^-x is less than a thousand billionth of a thousandth. */
const FARTHEST = 40;
/** Terms of the exponential series on [0, ln 2), from the highest on: off by less than 2e-8 of the value. */
const TERMS = [-1 / 362880, 1 / 40320, -1 / 5040, 1 / 720, -1 / 120, 1 / 24, -1 / 6, 1 / 2, -1, 1];

/**
 * e^-x for x >= 0, 0 beyond 40, to seven digits; by multiplications and additions alone, so that the kernels' own comes
 * to the same bits.
 */
export function expNegative(x: number): number {
  if (!(x <= FARTHEST)) return 0;
  const halvings = Math.floor(x * Math.LOG2E);
  const rest = x - halvings * Math.LN2;
  let sum = 0;
  for (const term of TERMS) sum = sum * rest + term;
  return sum * 2 ** -halvings;
}
