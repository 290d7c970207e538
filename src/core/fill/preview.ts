import { createImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Preview } from '../progress.ts';
import type { Level } from './level.ts';

/**
 * A level's present state as a picture of the hole's `box` (region coordinates): hole pixels in colour, the others
 * transparent, to be laid over the photo. `scale` is the number of photo pixels a level pixel stands for.
 */
export function previewOf(level: Level, scale: number, box: Rect): Preview {
  const x0 = Math.floor(box.x / scale);
  const y0 = Math.floor(box.y / scale);
  const x1 = Math.min(level.width, Math.ceil((box.x + box.width) / scale));
  const y1 = Math.min(level.height, Math.ceil((box.y + box.height) / scale));
  const image = createImage(x1 - x0, y1 - y0);
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const pixel = y * level.width + x;
      if (!level.hole[pixel]) continue;
      const luma = level.features[4 * pixel]!;
      const blue = luma + (level.features[4 * pixel + 1]! - 128) / 0.564;
      const red = luma + (level.features[4 * pixel + 2]! - 128) / 0.713;
      const to = ((y - y0) * image.width + x - x0) * 4;
      image.data[to] = red;
      image.data[to + 1] = (luma - 0.299 * red - 0.114 * blue) / 0.587;
      image.data[to + 2] = blue;
      image.data[to + 3] = 255;
    }
  }
  return { rect: { x: x0 * scale, y: y0 * scale, width: image.width * scale, height: image.height * scale }, image };
}
