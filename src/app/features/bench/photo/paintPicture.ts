import type { Size } from '../../../../core/image/rect.ts';
import type { PixelSource } from '../../../../engine/pictureSource.ts';
import type { Patch } from '../../../../operations/computation.ts';
import { bitmapOf } from '../../../desk/patchBitmaps.ts';
import { screenToPhoto, type Viewport } from './viewport.ts';
import type { TileCache } from './tileCache.ts';

/** Side of a tile in px of its level; equal to what the picture worker cuts. */
const TILE_PX = 512;

/** A picture by its name, of which there are tiles. */
export type TiledPicture = Pick<PixelSource, 'key' | 'photo'>;

/** Draws a picture under the viewport, in device px, from the level whose pixels are just small enough. */
export function paintTiles(
  context: CanvasRenderingContext2D,
  tiles: TileCache,
  picture: TiledPicture,
  view: Viewport,
  screen: Size,
  pixelRatio: number,
): void {
  const levels = levelCount(picture.photo);
  const wanted = Math.min(levels - 1, setSmoothing(context, view, pixelRatio));
  // Coarser levels first: they show until the finer tiles have come.
  for (const level of wanted === levels - 1 ? [wanted] : [levels - 1, wanted]) {
    paintLevel(context, tiles, level, picture, view, screen, pixelRatio);
  }
}

/**
 * Chooses the smoothing for a scale and returns how often pictures should have been halved for it: what is drawn then
 * shrinks by less than a half, for which the cheapest smoothing does. Far in, single pixels show as squares.
 */
function setSmoothing(context: CanvasRenderingContext2D, view: Viewport, pixelRatio: number): number {
  const deviceScale = view.scale * pixelRatio;
  context.imageSmoothingEnabled = deviceScale < 3;
  context.imageSmoothingQuality = 'low';
  return Math.max(0, Math.floor(Math.log2(1 / deviceScale)));
}

/** How many sizes of a picture there are, each half the one before, down to a single tile. */
function levelCount(photo: Size): number {
  let count = 1;
  for (let side = Math.max(photo.width, photo.height); side > TILE_PX; side = Math.ceil(side / 2)) count++;
  return count;
}

function paintLevel(
  context: CanvasRenderingContext2D,
  tiles: TileCache,
  level: number,
  { key, photo }: TiledPicture,
  view: Viewport,
  screen: Size,
  pixelRatio: number,
): void {
  const span = TILE_PX * 2 ** level;
  const from = screenToPhoto(view, { x: 0, y: 0 });
  const to = screenToPhoto(view, { x: screen.width, y: screen.height });
  const last = { column: Math.ceil(photo.width / span) - 1, row: Math.ceil(photo.height / span) - 1 };
  // Edges are rounded to device pixels, so that neighbouring tiles meet without a hairline.
  const edgeX = (x: number): number => Math.round((Math.min(x, photo.width) - view.x) * view.scale * pixelRatio);
  const edgeY = (y: number): number => Math.round((Math.min(y, photo.height) - view.y) * view.scale * pixelRatio);
  for (let row = Math.max(0, Math.floor(from.y / span)); row <= Math.min(last.row, Math.floor(to.y / span)); row++) {
    for (
      let column = Math.max(0, Math.floor(from.x / span));
      column <= Math.min(last.column, Math.floor(to.x / span));
      column++
    ) {
      const tile = tiles.get(key, level, column, row);
      if (!tile) continue;
      const x = edgeX(column * span);
      const y = edgeY(row * span);
      context.drawImage(tile, x, y, edgeX((column + 1) * span) - x, edgeY((row + 1) * span) - y);
    }
  }
}

/** Draws patches, in order, over the picture. */
export function paintPatches(
  context: CanvasRenderingContext2D,
  patches: readonly Patch[],
  view: Viewport,
  pixelRatio: number,
  whenReady: () => void,
): void {
  const level = setSmoothing(context, view, pixelRatio);
  for (const { rect, image, over = 1 } of patches) {
    const bitmap = bitmapOf(image, level, whenReady);
    context.globalAlpha = over;
    if (bitmap) paintOver(context, bitmap, rect, view, pixelRatio);
  }
  context.globalAlpha = 1;
}

/** Draws a bitmap stretched over a rectangle of the photo. */
export function paintOver(
  context: CanvasRenderingContext2D,
  bitmap: CanvasImageSource,
  rect: { x: number; y: number; width: number; height: number },
  view: Viewport,
  pixelRatio: number,
): void {
  const k = view.scale * pixelRatio;
  context.drawImage(bitmap, (rect.x - view.x) * k, (rect.y - view.y) * k, rect.width * k, rect.height * k);
}
