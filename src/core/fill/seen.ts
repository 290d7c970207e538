import { cropImage, type RasterImage } from '../image/rasterImage.ts';
import type { Rect } from '../image/rect.ts';
import type { Kernels } from '../kernels/kernels.ts';
import type { Hole } from '../mask/byteMasks.ts';
import { cropMask, type Mask } from '../mask/mask.ts';
import type { Part } from './parts.ts';

/** What is known when a part of a hole is rebuilt: a picture or a region of it. */
export interface Seen {
  image: RasterImage;
  /** Non-zero where nothing may be copied from. */
  hole: Hole;
  /** The hole but for the parts that are rebuilt already. The hole itself where there is but one. */
  unknown: Hole;
  donors: Mask | undefined;
}

/** What is seen in a region, for as long as the kernels' scratch holds it. */
export function seenIn(region: Rect, all: Seen, kernels: Kernels): Seen {
  const { image, hole, unknown, donors } = all;
  const { width, height } = region;
  if (width === image.width && height === image.height) return all;
  const inRegion = (bytes: Uint8Array): Mask =>
    cropMask({ width: image.width, height: image.height, data: bytes as Mask['data'] }, region);
  const holeThere = kernels.share(inRegion(hole).data);
  return {
    image: { width, height, data: kernels.share(cropImage(image, region).data) },
    hole: holeThere,
    unknown: unknown === hole ? holeThere : kernels.share(inRegion(unknown).data),
    donors: donors && inRegion(donors.data),
  };
}

/** Writes what a part rebuilt into `out`, that of `outBox`. */
export function pastePart(out: RasterImage, outBox: Rect, { region, box, pixelsOf }: Part, image: RasterImage): void {
  const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.data.length / 4);
  const to = new Uint32Array(out.data.buffer, out.data.byteOffset, out.data.length / 4);
  for (let y = box.y; y < box.y + box.height; y++) {
    const source = (y - box.y) * box.width - box.x;
    const target = (region.y + y - outBox.y) * outBox.width + region.x - outBox.x;
    for (let x = box.x; x < box.x + box.width; x++) {
      if (pixelsOf[y * region.width + x]) to[target + x] = from[source + x]!;
    }
  }
}

/** Notes that a part is known by now. */
export function makeKnown(unknown: Hole, { region, box, pixelsOf }: Part, across: number): void {
  for (let y = box.y; y < box.y + box.height; y++) {
    const row = (region.y + y) * across + region.x;
    for (let x = box.x; x < box.x + box.width; x++) if (pixelsOf[y * region.width + x]) unknown[row + x] = 0;
  }
}
