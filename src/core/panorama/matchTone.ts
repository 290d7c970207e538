import { lumaAt } from '../image/luma.ts';
import type { RasterImage } from '../image/rasterImage.ts';

/** Contrast and colourfulness are not changed by more than this factor. */
const MAX_FACTOR = 1.6;
/** At most so many px are looked at. */
const SAMPLES = 200_000;

interface Tone {
  mean: [number, number, number];
  spread: [number, number, number];
}

/**
 * A picture in the tone of another: mean and spread of brightness and of both colour differences are brought to those of
 * the other. E. Reinhard et al.: Color Transfer between Images, IEEE CG&A 2001; here in encoded Y, B - Y, R - Y, and
 * with bounded factors.
 *
 * @param amount 0 leaves it as it is, 1 matches fully
 * @param part what of the picture is compared with the reference
 */
export function matchTone(
  image: RasterImage,
  reference: RasterImage,
  amount: number,
  part: RasterImage = image,
): RasterImage {
  const [own, wanted] = [toneOf(part), toneOf(reference)];
  const factor = (c: number): number => {
    const full = wanted.spread[c]! / Math.max(1, own.spread[c]!);
    return 1 + amount * (Math.min(MAX_FACTOR, Math.max(1 / MAX_FACTOR, full)) - 1);
  };
  const factors = [factor(0), factor(1), factor(2)] as const;
  const means = [0, 1, 2].map((c) => own.mean[c]! + amount * (wanted.mean[c]! - own.mean[c]!)) as [
    number,
    number,
    number,
  ];
  const out = new Uint8ClampedArray(image.data.length);
  const { data } = image;
  for (let i = 0; i < data.length; i += 4) {
    const luma = lumaAt(data, i);
    const y = means[0] + factors[0] * (luma - own.mean[0]);
    const b = y + means[1] + factors[1] * (data[i + 2]! - luma - own.mean[1]);
    const r = y + means[2] + factors[2] * (data[i]! - luma - own.mean[2]);
    out[i] = r;
    out[i + 1] = (y - 0.299 * r - 0.114 * b) / 0.587;
    out[i + 2] = b;
    out[i + 3] = data[i + 3]!;
  }
  return { ...image, data: out };
}

function toneOf({ data }: RasterImage): Tone {
  const stride = 4 * Math.max(1, Math.floor(data.length / 4 / SAMPLES));
  const sums = [0, 0, 0];
  const squares = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < data.length; i += stride) {
    if (data[i + 3] === 0) continue;
    const luma = lumaAt(data, i);
    [luma, data[i + 2]! - luma, data[i]! - luma].forEach((value, c) => {
      sums[c]! += value;
      squares[c]! += value * value;
    });
    count++;
  }
  const mean = sums.map((sum) => sum / Math.max(1, count)) as Tone['mean'];
  const spread = squares.map((square, c) => Math.sqrt(Math.max(0, square / Math.max(1, count) - mean[c]! ** 2)));
  return { mean, spread: spread as Tone['spread'] };
}
