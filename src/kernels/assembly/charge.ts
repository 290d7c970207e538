import { argument, floatArgument, pointer } from './control';

/**
 * What a band of donors costs for being used often; see `chargeBand` in the core. Arguments: 0 width, 1 height,
 * 2 density, 3 costs, 4 bias, 5 rows a band, 6 what a further use costs (f64).
 */
export function chargeBand(band: i32): void {
  const width = argument(0);
  const density = pointer(2);
  const costs = pointer(3);
  const bias = pointer(4);
  const rows = argument(5);
  const unit = floatArgument(6);
  const end = <usize>(width * min(argument(1), (band + 1) * rows)) << 2;
  for (let i = <usize>(width * band * rows) << 2; i < end; i += 4) {
    const further = <f64>load<f32>(density + i) - 1;
    const more = further > 0 ? <i32>Math.floor(unit * further + 0.5) : 0;
    store<i32>(bias + i, load<i32>(costs + i) + more);
  }
}
