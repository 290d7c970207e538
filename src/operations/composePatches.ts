import { pasteImage, type RasterImage } from '../core/image/rasterImage.ts';
import type { Rect } from '../core/image/rect.ts';
import type { Patch } from './computation.ts';

/** Writes patches, in order, over `out`, which shows `rect` of the photo. In place. */
export function composePatches(out: RasterImage, rect: Pick<Rect, 'x' | 'y'>, patches: readonly Patch[]): void {
  for (const patch of patches) pasteImage(out, { x: patch.rect.x - rect.x, y: patch.rect.y - rect.y }, patch.image);
}
