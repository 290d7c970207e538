import { pasteImage, type RasterImage } from '../core/image/rasterImage.ts';
import type { Rect } from '../core/image/rect.ts';
import { layOver } from '../core/image/layOver.ts';
import type { Patch } from './computation.ts';

/** Puts patches, in order, onto `out`, which shows `rect` of the photo: they replace, or lie over it. In place. */
export function composePatches(out: RasterImage, rect: Pick<Rect, 'x' | 'y'>, patches: readonly Patch[]): void {
  for (const { rect: own, image, over } of patches) {
    const at = { x: own.x - rect.x, y: own.y - rect.y };
    if (over === undefined) pasteImage(out, at, image);
    else layOver(out, at, image, over);
  }
}
