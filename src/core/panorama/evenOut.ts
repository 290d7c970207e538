import { byteFromLinear, LINEAR_FROM_BYTE } from '../image/linearLight.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { contrastAt, squareFromMiddle, type Exposure } from './exposure.ts';

/** The falloff is taken from so many steps from the middle to the corner. */
const STEPS = 256;

/** A frame as bright everywhere as the mean of all frames is in the middle, in linear light; alpha is kept. */
export function evenOut(frame: RasterImage, { gains, falloff, curve }: Exposure, index: number): RasterImage {
  const tables = gains[index]!.map((gain) => {
    const table = new Uint8Array(STEPS * 256);
    for (let step = 0; step < STEPS; step++) {
      const square = (step + 0.5) / STEPS;
      const light = Math.log(gain) + falloff[0] * square + falloff[1] * square * square;
      for (let value = 0; value < 256; value++) {
        const factor = Math.exp(-light * contrastAt(curve, value / 255));
        table[256 * step + value] = Math.round(byteFromLinear(LINEAR_FROM_BYTE[value]! * factor));
      }
    }
    return table;
  });
  const [red, green, blue] = tables as [Uint8Array, Uint8Array, Uint8Array];
  const { width, height, data } = frame;
  const out = new Uint8ClampedArray(data.length);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i += 4) {
      const step = Math.min(STEPS - 1, (STEPS * squareFromMiddle(x + 0.5, y + 0.5, frame)) | 0) * 256;
      out[i] = red[step + data[i]!]!;
      out[i + 1] = green[step + data[i + 1]!]!;
      out[i + 2] = blue[step + data[i + 2]!]!;
      out[i + 3] = data[i + 3]!;
    }
  }
  return { width, height, data: out };
}
