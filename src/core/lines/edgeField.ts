import { blurPlane } from '../image/boxBlur.ts';
import type { RasterImage } from '../image/rasterImage.ts';
import type { Hole } from '../mask/byteMasks.ts';

/** How colours change from pixel to pixel, at 1 / `factor` of the picture's size. */
export interface EdgeField {
  width: number;
  height: number;
  /** Encoded R, G, B, interleaved, 0..255, lightly blurred. */
  colour: Float32Array;
  /** Changes to the right and down, levels a reduced px, for R, G, B, interleaved. */
  dx: Float32Array;
  dy: Float32Array;
  /** 1 where nothing of a pixel or of those beside it is unknown. */
  isKnown: Uint8Array;
  /** 1 where any of a pixel is unknown. */
  hole: Uint8Array;
}

const BLUR_PX = 0.7;
/** Next to the hole pixels are mixed with what was marked, for so many reduced px. */
const MARGIN_PX = 1;

/**
 * The changes of colour around a hole (not 0), of the picture reduced by a whole factor. A reduced pixel is the mean of its
 * known pixels; what is unknown has no share in anything.
 */
export function edgeField(image: RasterImage, hole: Hole, factor: number): EdgeField {
  const width = Math.max(1, Math.floor(image.width / factor));
  const height = Math.max(1, Math.floor(image.height / factor));
  const n = width * height;
  const planes = [0, 1, 2].map(() => new Float32Array(n));
  const weight = new Float32Array(n);
  const reduced = new Uint8Array(n);
  for (let y = 0; y < height * factor; y++) {
    for (let x = 0; x < width * factor; x++) {
      const from = y * image.width + x;
      const to = Math.floor(y / factor) * width + Math.floor(x / factor);
      if (hole[from]) {
        reduced[to] = 1;
        continue;
      }
      weight[to]!++;
      for (let c = 0; c < 3; c++) planes[c]![to]! += image.data[4 * from + c]!;
    }
  }
  for (let i = 0; i < n; i++) {
    if (reduced[i]) weight[i] = 0;
    const share = weight[i]! > 0 ? 1 / weight[i]! : 0;
    for (const plane of planes) plane[i]! *= share;
    weight[i] = weight[i]! > 0 ? 1 : 0;
  }
  const seen = blurPlane(weight, width, height, BLUR_PX, 2);
  const colour = new Float32Array(3 * n);
  for (const [c, plane] of planes.entries()) {
    const blurred = blurPlane(plane, width, height, BLUR_PX, 2);
    for (let i = 0; i < n; i++) colour[3 * i + c] = seen[i]! > 1e-3 ? blurred[i]! / seen[i]! : 0;
  }
  const [dx, dy] = [new Float32Array(3 * n), new Float32Array(3 * n)];
  const isKnown = new Uint8Array(n);
  const reach = MARGIN_PX + 1;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let isWhole = true;
      for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach) && isWhole; v++) {
        for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++) {
          if (weight[v * width + u] === 0) {
            isWhole = false;
            break;
          }
        }
      }
      if (!isWhole) continue;
      isKnown[i] = 1;
      for (let c = 0; c < 3; c++) {
        dx[3 * i + c] = (colour[3 * (i + 1) + c]! - colour[3 * (i - 1) + c]!) / 2;
        dy[3 * i + c] = (colour[3 * (i + width) + c]! - colour[3 * (i - width) + c]!) / 2;
      }
    }
  }
  return { width, height, colour, dx, dy, isKnown, hole: reduced };
}

/** How colour changes across a direction (nx, ny), between pixels; false where that is not known. */
export function changeAcross(
  field: EdgeField,
  x: number,
  y: number,
  nx: number,
  ny: number,
  out: Float64Array,
): boolean {
  const { width, height, dx, dy, isKnown } = field;
  const [u, v] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  if (u < 0 || v < 0 || u + 1 >= width || v + 1 >= height) return false;
  const i = v * width + u;
  if (!isKnown[i] || !isKnown[i + 1] || !isKnown[i + width] || !isKnown[i + width + 1]) return false;
  const [a, b] = [x - 0.5 - u, y - 0.5 - v];
  const mixed = (plane: Float32Array, c: number): number =>
    (1 - b) * ((1 - a) * plane[3 * i + c]! + a * plane[3 * (i + 1) + c]!) +
    b * ((1 - a) * plane[3 * (i + width) + c]! + a * plane[3 * (i + width + 1) + c]!);
  for (let c = 0; c < 3; c++) out[c] = nx * mixed(dx, c) + ny * mixed(dy, c);
  return true;
}
