import { guidedModel } from '../image/guidedModel.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { interpolated, interpolation } from '../image/interpolate.ts';
import { createMask, type Mask } from '../mask/mask.ts';

/** The model that leads the edge is found on an image so many times finer than the work image. */
const EDGE_FINENESS = 3;
const EDGE_EPSILON = 1e-4;

/** A plane of probabilities, 0..1, at 1 / `factor` of the picture's size. */
export interface SmallPlane {
  width: number;
  height: number;
  values: Float32Array;
  factor: number;
}

/**
 * A probability found on a reduced picture as a matte at full size, inside the mark: enlarged, its edge led onto the
 * photo's and made about two pixels wide.
 */
export function leadMatte(image: RasterImage, mark: Mask, small: SmallPlane): Mask {
  const { factor } = small;
  const step = Math.max(1, Math.round(factor / EDGE_FINENESS));
  const model = edgeModel(image, small, step);
  const { width, height } = image;
  const matte = createMask(width, height);
  for (let y = 0; y < height; y++) {
    const row = interpolation((y + 0.5) / step - 0.5, model.height);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!mark.data[i]) continue;
      const column = interpolation((x + 0.5) / step - 0.5, model.width);
      const a = interpolated(model.a, model.width, column, row);
      const b = interpolated(model.b, model.width, column, row);
      const steep = Math.max(0, Math.min(1, (a * lumaAt(image, i) + b - 0.5) * 1.6 + 0.5));
      matte.data[i] = Math.round(Math.min(mark.data[i]!, 255 * steep));
    }
  }
  return matte;
}

/** How, near the cut between subject and ground, being subject depends on luma: on an image reduced by `step`. */
function edgeModel(
  image: RasterImage,
  small: SmallPlane,
  step: number,
): { width: number; height: number; a: Float32Array; b: Float32Array } {
  const width = Math.ceil(image.width / step);
  const height = Math.ceil(image.height / step);
  const { factor } = small;
  const cut = new Float32Array(width * height);
  const guide = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = interpolation(((y + 0.5) * step) / factor - 0.5, small.height);
    const bottom = Math.min(image.height, (y + 1) * step);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const column = interpolation(((x + 0.5) * step) / factor - 0.5, small.width);
      cut[i] = interpolated(small.values, small.width, column, row) > 0.5 ? 1 : 0;
      const right = Math.min(image.width, (x + 1) * step);
      let sum = 0;
      for (let v = y * step; v < bottom; v++) {
        for (let u = x * step; u < right; u++) sum += lumaAt(image, v * image.width + u);
      }
      guide[i] = sum / ((bottom - y * step) * (right - x * step));
    }
  }
  return { width, height, ...guidedModel(cut, guide, width, height, Math.max(2, factor / step), EDGE_EPSILON) };
}

const lumaAt = ({ data }: RasterImage, i: number): number =>
  (0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!) / 255;
