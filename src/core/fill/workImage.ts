import type { RasterImage } from '../image/rasterImage.ts';
import type { LevelPixels } from './level.ts';

/**
 * The photo reduced to the fill's work size in one streaming pass, by a whole factor, so that a work offset is a whole
 * offset at full resolution. A work pixel is the area average of its known pixels; it is hole if any of its pixels is,
 * usable only if all of them are. T is the mean luma gradient magnitude measured at full resolution (it tells fine
 * texture apart that the reduction averages away), lightly blurred, times `textureWeight`, cut off at 255.
 *
 * `hole` and `usable` have one byte per photo pixel (non-zero = yes). Work size is ceil(size / factor); cells that
 * stick out over the right or lower edge average what there is. O(photo pixels).
 */
export function makeWorkImage(
  image: RasterImage,
  hole: Uint8Array,
  usable: Uint8Array,
  factor: number,
  textureWeight: number,
): LevelPixels {
  const width = Math.ceil(image.width / factor);
  const height = Math.ceil(image.height / factor);
  const sums = new Float32Array(width * height * 5);
  const workHole = new Uint8Array(width * height);
  const workUsable = new Uint8Array(width * height).fill(1);
  const { data } = image;
  const lumaAt = (i: number): number => 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
  for (let y = 0; y < image.height; y++) {
    const workRow = Math.floor(y / factor) * width;
    const hasBelow = y + 1 < image.height;
    for (let x = 0; x < image.width; x++) {
      const i = y * image.width + x;
      const cell = workRow + Math.floor(x / factor);
      if (!usable[i]) workUsable[cell] = 0;
      if (hole[i]) {
        workHole[cell] = 1;
        workUsable[cell] = 0;
        continue;
      }
      const luma = lumaAt(i);
      const dx = x + 1 < image.width && !hole[i + 1] ? lumaAt(i + 1) - luma : 0;
      const dy = hasBelow && !hole[i + image.width] ? lumaAt(i + image.width) - luma : 0;
      const s = cell * 5;
      sums[s]! += luma;
      sums[s + 1]! += data[4 * i + 2]!;
      sums[s + 2]! += data[4 * i]!;
      sums[s + 3]! += Math.sqrt(dx * dx + dy * dy);
      sums[s + 4]! += 1;
    }
  }
  const features = new Uint8Array(width * height * 4);
  const texture = new Float32Array(width * height);
  for (let cell = 0; cell < width * height; cell++) {
    const count = sums[cell * 5 + 4]!;
    if (!count) continue;
    const luma = sums[cell * 5]! / count;
    features[4 * cell] = Math.round(luma);
    features[4 * cell + 1] = Math.round(128 + 0.564 * (sums[cell * 5 + 1]! / count - luma));
    features[4 * cell + 2] = Math.round(128 + 0.713 * (sums[cell * 5 + 2]! / count - luma));
    texture[cell] = sums[cell * 5 + 3]! / count;
  }
  blurKnownTexture(texture, sums, width, height, textureWeight, features);
  return { width, height, features, hole: workHole, usable: workUsable };
}

const TEXTURE_BLUR_RADIUS = 2;

function blurKnownTexture(
  texture: Float32Array,
  sums: Float32Array,
  width: number,
  height: number,
  weight: number,
  features: Uint8Array,
): void {
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let count = 0;
      for (let v = Math.max(0, y - TEXTURE_BLUR_RADIUS); v <= Math.min(height - 1, y + TEXTURE_BLUR_RADIUS); v++) {
        for (let u = Math.max(0, x - TEXTURE_BLUR_RADIUS); u <= Math.min(width - 1, x + TEXTURE_BLUR_RADIUS); u++) {
          if (!sums[(v * width + u) * 5 + 4]) continue;
          sum += texture[v * width + u]!;
          count++;
        }
      }
      features[4 * (y * width + x) + 3] = count ? Math.min(255, Math.round((weight * sum) / count)) : 0;
    }
  }
}
