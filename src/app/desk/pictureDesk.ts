import { wrap } from 'comlink';
import { FingoError } from '../../core/errors.ts';
import type { Size } from '../../core/image/rect.ts';
import type { ReachOptions, ReachTarget } from '../../core/segment/colourReach.ts';
import type { PixelSource } from '../../engine/workshop.ts';
import type { PictureFormat } from '../../formats/browser/encodePicture.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import type { MarkOutline } from '../../operations/marks/outlineMark.ts';
import type { Patch } from '../../operations/operation.ts';
import type { Answer, PictureApi } from '../../workers/picture.worker.ts';

/** The original's pixels, kept in a worker of their own, and what is asked of them. */
export interface PictureDesk {
  source: PixelSource;
  levels: number;
  tile(level: number, column: number, row: number): Promise<ImageBitmap>;
  outline(mark: Mark): Promise<MarkOutline>;
  areas(mark: Mark): Promise<Mark[]>;
  /** What has a colour in the picture with these patches. */
  reach(patches: Patch[], target: ReachTarget, options: ReachOptions): Promise<Mark>;
  /** The cast shadow of what is marked. */
  shadow(patches: Patch[], mark: Mark): Promise<Mark>;
  /** The height of the horizon, px from the top, if the picture's lines tell it. */
  horizon(): Promise<number | undefined>;
  encode(patches: Patch[], format: PictureFormat): Promise<Blob>;
  thumbnail(patches: Patch[], longestPx: number): Promise<Blob>;
  close(): void;
}

/** Opens a file. Throws what decoding throws. */
export async function openPicture(blob: Blob, name: string): Promise<PictureDesk> {
  const worker = new Worker(new URL('../../workers/picture.worker.ts', import.meta.url), { type: 'module' });
  const api = wrap<PictureApi>(worker);
  try {
    const { width, height, levels, key } = unwrap(await api.open(blob, name));
    const photo: Size = { width, height };
    return {
      source: { photo, key, crop: (rect) => api.crop(rect) },
      levels,
      tile: (level, column, row) => api.tile(level, column, row),
      outline: async (mark) => unwrap(await api.outline(mark, photo)),
      reach: async (patches, target, options) => unwrap(await api.reach(patches, target, options)),
      shadow: async (patches, mark) => unwrap(await api.shadow(patches, mark, photo)),
      horizon: async () => unwrap(await api.horizon()),
      areas: async (mark) => unwrap(await api.areas(mark, photo)),
      encode: async (patches, format) => unwrap(await api.encode(patches, format)),
      thumbnail: async (patches, longestPx) => unwrap(await api.thumbnail(patches, longestPx)),
      close: () => worker.terminate(),
    };
  } catch (error) {
    worker.terminate();
    throw error;
  }
}

function unwrap<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  throw new FingoError(answer.error.code, answer.error.message);
}
