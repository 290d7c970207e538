import { createImage, type RasterImage } from './rasterImage.ts';

/**
 * The picture at half its size (rounded up): each pixel the mean of up to four, alpha-weighted, on encoded values.
 * Good enough for looking at; not for computing with.
 */
export function halveImage(image: RasterImage): RasterImage {
  const out = createImage(Math.ceil(image.width / 2), Math.ceil(image.height / 2));
  const { data } = image;
  const stride = image.width * 4;
  for (let y = 0; y < out.height; y++) {
    const below = 2 * y + 1 < image.height ? stride : 0;
    for (let x = 0; x < out.width; x++) {
      const p = 2 * y * stride + 8 * x;
      const q = 2 * x + 1 < image.width ? p + 4 : p;
      const alpha = data[p + 3]! + data[q + 3]! + data[p + below + 3]! + data[q + below + 3]!;
      const to = (y * out.width + x) * 4;
      out.data[to + 3] = alpha / 4;
      if (alpha === 1020) {
        for (let c = 0; c < 3; c++) {
          out.data[to + c] = (data[p + c]! + data[q + c]! + data[p + below + c]! + data[q + below + c]!) / 4;
        }
      } else if (alpha > 0) {
        for (let c = 0; c < 3; c++) {
          const sum =
            data[p + c]! * data[p + 3]! +
            data[q + c]! * data[q + 3]! +
            data[p + below + c]! * data[p + below + 3]! +
            data[q + below + c]! * data[q + below + 3]!;
          out.data[to + c] = sum / alpha;
        }
      }
    }
  }
  return out;
}
