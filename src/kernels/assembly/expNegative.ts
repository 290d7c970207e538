/** e^-x for x >= 0, 0 beyond 40; see `expNegative` in the core, whose steps these are. */
@inline
export function expNegative(x: f64): f64 {
  if (!(x <= 40)) return 0;
  const halvings = Math.floor(x * Math.LOG2E);
  const rest = x - halvings * Math.LN2;
  let sum: f64 = -1.0 / 362880.0;
  sum = sum * rest + 1.0 / 40320.0;
  sum = sum * rest - 1.0 / 5040.0;
  sum = sum * rest + 1.0 / 720.0;
  sum = sum * rest - 1.0 / 120.0;
  sum = sum * rest + 1.0 / 24.0;
  sum = sum * rest - 1.0 / 6.0;
  sum = sum * rest + 0.5;
  sum = sum * rest - 1.0;
  sum = sum * rest + 1.0;
  return sum * reinterpret<f64>((1023 - <i64>halvings) << 52);
}
