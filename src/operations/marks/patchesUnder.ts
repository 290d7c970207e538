import { cropImage, type RasterImage } from '../../core/image/rasterImage.ts';
import type { Rect } from '../../core/image/rect.ts';
import type { Mask } from '../../core/mask/mask.ts';
import type { Patch } from '../computation.ts';

const CELL_PX = 256;

/**
 * An image at `rect` cut into the fewest bands of cells that hold everything marked, so that the middle of a frame is
 * not kept along with its margins. `mask` lies over the image.
 */
export function patchesUnder(rect: Rect, image: RasterImage, mask: Mask): Patch[] {
  const columns = Math.ceil(rect.width / CELL_PX);
  const rows = Math.ceil(rect.height / CELL_PX);
  const marked = new Uint8Array(columns * rows);
  for (let y = 0; y < mask.height; y++) {
    const row = Math.floor(y / CELL_PX) * columns;
    for (let x = 0; x < mask.width; x++) if (mask.data[y * mask.width + x]) marked[row + Math.floor(x / CELL_PX)] = 1;
  }
  const bands: Rect[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      if (!marked[row * columns + column]) continue;
      const from = column;
      while (column + 1 < columns && marked[row * columns + column + 1]) column++;
      const above = bands.find((b) => b.x === from && b.width === column + 1 - from && b.y + b.height === row);
      if (above) above.height++;
      else bands.push({ x: from, y: row, width: column + 1 - from, height: 1 });
    }
  }
  return bands.map((band) => {
    const [x, y] = [band.x * CELL_PX, band.y * CELL_PX];
    const width = Math.min(rect.width - x, band.width * CELL_PX);
    const height = Math.min(rect.height - y, band.height * CELL_PX);
    return { rect: { x: rect.x + x, y: rect.y + y, width, height }, image: cropImage(image, { x, y, width, height }) };
  });
}
