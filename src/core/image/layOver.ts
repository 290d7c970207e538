import type { RasterImage } from './rasterImage.ts';

/**
 * Lays an image with coverage (straight alpha) over another, its top left corner at `at`, `opacity` (0..1) times as
 * strongly; what lies beside `out` is left away. In place. In sRGB encoding, as pictures are laid over each other on the
 * screen: T. Porter, T. Duff: Compositing Digital Images, SIGGRAPH, 1984, "over".
 */
export function layOver(out: RasterImage, at: { x: number; y: number }, layer: RasterImage, opacity: number): void {
  const [left, right] = [Math.max(0, -at.x), Math.min(layer.width, out.width - at.x)];
  const [top, bottom] = [Math.max(0, -at.y), Math.min(layer.height, out.height - at.y)];
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const from = 4 * (y * layer.width + x);
      const cover = (layer.data[from + 3]! / 255) * opacity;
      if (cover === 0) continue;
      const to = 4 * ((y + at.y) * out.width + x + at.x);
      const below = (out.data[to + 3]! / 255) * (1 - cover);
      for (let c = 0; c < 3; c++) {
        out.data[to + c] = Math.round((cover * layer.data[from + c]! + below * out.data[to + c]!) / (cover + below));
      }
      out.data[to + 3] = Math.round(255 * (cover + below));
    }
  }
}
