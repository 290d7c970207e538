import { cropImage } from '../core/image/rasterImage.ts';
import { intersect, isEmpty, translate, wholeOf, type Size } from '../core/image/rect.ts';
import type { Patch } from './computation.ts';
import type { Lying } from './kind.ts';

/** A layer's pixels as they lie on a picture; what lies beside it is left away. */
export function layLayer(tiles: readonly Patch[], { dx, dy, opacity }: Lying, photo: Size): Patch[] {
  return tiles.flatMap(({ rect, image }) => {
    const there = translate(rect, dx, dy);
    const seen = intersect(there, wholeOf(photo));
    if (isEmpty(seen)) return [];
    const isWhole = seen.width === there.width && seen.height === there.height;
    const shown = isWhole ? image : cropImage(image, translate(seen, -there.x, -there.y));
    return [{ rect: seen, image: shown, over: opacity }];
  });
}
