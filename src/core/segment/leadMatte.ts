import { guidedModel } from '../image/guidedModel.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import { interpolated, interpolation, mix, type Between } from '../image/interpolate.ts';
import type { Kernels } from '../kernels/kernels.ts';
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
export function leadMatte(image: RasterImage, mark: Mask, small: SmallPlane, kernels: Kernels): Mask {
  const { factor } = small;
  const step = Math.max(1, Math.round(factor / EDGE_FINENESS));
  const model = edgeModel(image, small, step, kernels);
  const { width, height, data } = image;
  const matte = createMask(width, height);
  const out = matte.data;
  const columns = inColumns(width, model.width, (x) => (x + 0.5) / step - 0.5);
  const lows = Int32Array.from(columns, ({ low }) => low);
  const highs = Int32Array.from(columns, ({ high }) => high);
  const shares = Float64Array.from(columns, ({ share }) => share);
  // The model is mixed down to a row first, then along it.
  const [rowA, rowB] = [new Float64Array(model.width), new Float64Array(model.width)];
  const plain = new Uint8Array(model.width);
  for (let y = 0; y < height; y++) {
    const { low, high, share } = interpolation((y + 0.5) / step - 0.5, model.height);
    for (let x = 0; x < model.width; x++) {
      const [above, below] = [low * model.width + x, high * model.width + x];
      rowA[x] = mix(model.a[above]!, model.a[below]!, share);
      rowB[x] = mix(model.b[above]!, model.b[below]!, share);
      plain[x] = plainSide(rowA[x]!, rowB[x]!);
    }
    for (let x = 0; x < width; x++) {
      const from = lows[x]!;
      const to = highs[x]!;
      const side = plain[from]! & plain[to]!;
      if (side === GROUND) continue;
      const i = y * width + x;
      const most = mark.data[i]!;
      if (side === SUBJECT) out[i] = most;
      else if (most > 0) {
        const a = mix(rowA[from]!, rowA[to]!, shares[x]!);
        const b = mix(rowB[from]!, rowB[to]!, shares[x]!);
        const luma = lumaOf(data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!);
        const steep = Math.max(0, Math.min(1, (a * luma + b - 0.5) * 1.6 + 0.5));
        out[i] = Math.round(Math.min(most, 255 * steep));
      }
    }
  }
  return matte;
}

const SUBJECT = 1;
const GROUND = 2;
/** Which side a pixel is on whatever its luma, where the model says so; else 0. */
function plainSide(a: number, b: number): number {
  if (Math.abs(a) > 1e-4) return 0;
  return b < 0.1 ? GROUND : b > 0.9 ? SUBJECT : 0;
}

const inColumns = (width: number, size: number, place: (x: number) => number): Between[] =>
  Array.from({ length: width }, (_, x) => interpolation(place(x), size));

/** How, near the cut between subject and ground, being subject depends on luma: on an image reduced by `step`. */
function edgeModel(
  image: RasterImage,
  small: SmallPlane,
  step: number,
  kernels: Kernels,
): { width: number; height: number; a: Float32Array; b: Float32Array } {
  const width = Math.ceil(image.width / step);
  const height = Math.ceil(image.height / step);
  const { factor } = small;
  const { data } = image;
  const cut = new Float32Array(width * height);
  const guide = new Float32Array(width * height);
  const columns = inColumns(width, small.width, (x) => ((x + 0.5) * step) / factor - 0.5);
  for (let y = 0; y < height; y++) {
    const row = interpolation(((y + 0.5) * step) / factor - 0.5, small.height);
    const bottom = Math.min(image.height, (y + 1) * step);
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      cut[i] = interpolated(small.values, small.width, columns[x]!, row) > 0.5 ? 1 : 0;
      const right = Math.min(image.width, (x + 1) * step);
      let [red, green, blue] = [0, 0, 0];
      for (let v = y * step; v < bottom; v++) {
        const end = 4 * (v * image.width + right);
        for (let at = 4 * (v * image.width + x * step); at < end; at += 4) {
          red += data[at]!;
          green += data[at + 1]!;
          blue += data[at + 2]!;
        }
      }
      guide[i] = lumaOf(red, green, blue) / ((bottom - y * step) * (right - x * step));
    }
  }
  const radius = Math.max(2, factor / step);
  return { width, height, ...guidedModel(cut, guide, width, height, radius, EDGE_EPSILON, kernels) };
}

/** 0..1 for levels up to 255. */
const lumaOf = (red: number, green: number, blue: number): number =>
  (0.299 * red + 0.587 * green + 0.114 * blue) * (1 / 255);
