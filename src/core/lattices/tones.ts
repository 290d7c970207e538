import { blurPlane } from '../image/boxBlur.ts';
import type { HoleCells } from './holeCells.ts';
import { reachInto } from './reachInto.ts';

/** Tones are means of about so many cells to either side. */
const TONE_RADIUS = 6;

/** The mean colours around cells, of colours R, G, B that are not a number where nothing is shown. */
export const tonesOf = (colours: Float32Array, { width, height }: HoleCells): Float32Array =>
  meansOf(colours, width * height, (plane) => blurPlane(plane, width, height, TONE_RADIUS, 2));

/** The tones that colours around the hole let expect within it. */
export function expectedTones(colours: Float32Array, { width, height, numberOf }: HoleCells): Float32Array {
  const known = colours.map((value, i) => (numberOf[Math.floor(i / 3)]! >= 0 ? NaN : value));
  return meansOf(known, width * height, (plane) => reachInto(plane, width, height));
}

function meansOf(colours: Float32Array, count: number, spread: (plane: Float32Array) => Float32Array): Float32Array {
  const isShown = Float32Array.from({ length: count }, (_, i) => (Number.isNaN(colours[3 * i]!) ? 0 : 1));
  const weight = spread(isShown);
  const out = new Float32Array(3 * count);
  for (let c = 0; c < 3; c++) {
    const sum = spread(isShown.map((shown, i) => (shown ? colours[3 * i + c]! : 0)));
    for (let i = 0; i < count; i++) out[3 * i + c] = weight[i]! > 1e-6 ? sum[i]! / weight[i]! : NaN;
  }
  return out;
}
