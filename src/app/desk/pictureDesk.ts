import type { Size } from '../../core/image/rect.ts';
import type { SpherePlacement } from '../../core/sphere/placement.ts';
import type { PixelSource } from '../../engine/pictureSource.ts';
import { openLink, type Client } from '../../engine/workerLink.ts';
import type { PictureApi } from '../../workers/picture.worker.ts';

/** The original's pixels, and those of what it becomes in other frames, kept in a worker that is asked about them. */
export interface PictureDesk extends Client<PictureApi> {
  /** The original. */
  source: PixelSource;
  close(): void;
}

/** Opens a file, laid onto its sphere if it is one. Throws what decoding throws, and `worker-lost`. */
export async function openPicture(blob: Blob, name: string, placement?: SpherePlacement): Promise<PictureDesk> {
  const { api, close } = openLink<PictureApi>(
    () => new Worker(new URL('../../workers/picture.worker.ts', import.meta.url), { type: 'module' }),
  );
  const sourceOf = (photo: Size, key: string): PixelSource => ({
    photo,
    key,
    crop: (rect) => api.crop(key, rect),
    look: (patches) => api.look({ source: { key }, patches }),
    async carried(carry, next) {
      await api.carry(key, next, carry);
      return sourceOf(carry.size, next);
    },
    async seen(view, patches, next) {
      await api.see(key, next, view, patches);
      return sourceOf({ width: view.width, height: view.height }, next);
    },
    laidBack: (changes) => api.layBack(key, changes),
  });
  try {
    const { width, height, key } = await api.open(blob, name, placement);
    // All else is asked of the worker as it is.
    return Object.assign(Object.create(api) as Client<PictureApi>, { source: sourceOf({ width, height }, key), close });
  } catch (error) {
    close();
    throw error;
  }
}
