import { createImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { PartMask } from '../mask/byteMasks.ts';
import type { Preview, Task } from '../progress.ts';
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

const MAX_PX_ALONG = 800;

/** Room for previews of all parts of what is rebuilt in a box. */
export function emptyBoard(box: Rect): Preview {
  const scale = Math.max(1, Math.max(box.width, box.height) / MAX_PX_ALONG);
  return { rect: box, image: createImage(Math.ceil(box.width / scale), Math.ceil(box.height / scale)) };
}

/** What is copied of a part (not 0, region size) into its box, as a preview; the rest is transparent. */
export function previewOfCopied(copied: RasterImage, part: PartMask, box: Rect, regionWidth: number): Preview {
  const { rect, image } = emptyBoard(box);
  const [to, from] = [new Uint32Array(image.data.buffer), new Uint32Array(copied.data.buffer, copied.data.byteOffset)];
  for (let y = 0; y < image.height; y++) {
    const v = Math.min(box.height - 1, Math.floor(((y + 0.5) * box.height) / image.height));
    for (let x = 0; x < image.width; x++) {
      const u = Math.min(box.width - 1, Math.floor(((x + 0.5) * box.width) / image.width));
      if (part[(v + box.y) * regionWidth + u + box.x]) to[y * image.width + x] = from[v * box.width + u]!;
    }
  }
  return { rect, image };
}

/** Runs `task` with previews of all the board, onto which what each of its own shows is put. */
export function* previewsOn<Result>(board: Preview, task: Task<Result>): Task<Result> {
  for (;;) {
    const step = task.next();
    if (step.done) return step.value;
    const { preview, ...progress } = step.value;
    if (preview) put(board, preview);
    const { rect, image } = board;
    yield preview ? { ...progress, preview: { rect, image: { ...image, data: image.data.slice() } } } : progress;
  }
}

/** What is opaque of a preview takes the place of what the board has there. */
function put({ rect, image: out }: Preview, { rect: from, image }: Preview): void {
  const [to, read] = [new Uint32Array(out.data.buffer), new Uint32Array(image.data.buffer)];
  for (let y = 0; y < out.height; y++) {
    const v = Math.floor((((y + 0.5) * rect.height) / out.height + rect.y - from.y) * (image.height / from.height));
    if (v < 0 || v >= image.height) continue;
    for (let x = 0; x < out.width; x++) {
      const u = Math.floor((((x + 0.5) * rect.width) / out.width + rect.x - from.x) * (image.width / from.width));
      if (u < 0 || u >= image.width || !image.data[4 * (v * image.width + u) + 3]) continue;
      to[y * out.width + x] = read[v * image.width + u]!;
    }
  }
}
