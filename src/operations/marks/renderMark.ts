import { inflateSync, deflateSync } from 'fflate';
import { FingoError } from '../../core/errors.ts';
import { inflate, intersect, translate, unite, wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import { rasteriseStroke } from '../../core/mask/brush.ts';
import { combineMasks } from '../../core/mask/combine.ts';
import { boundsOf, createMask, cropMask, pasteMask, type Mask } from '../../core/mask/mask.ts';
import { featherMask, growMask, smoothMask } from '../../core/mask/morphology.ts';
import { rasterisePolygon } from '../../core/mask/polygon.ts';
import type { Mark, MarkShape } from './markSchema.ts';

/** A mask that covers `rect` of the photo; beyond it nothing is marked. */
export interface PlacedMask {
  rect: Rect;
  mask: Mask;
}

/** A rectangle of the photo that holds everything the mark can cover, found without rasterising. */
export function markFrame(mark: Mark, photo: Size): Rect {
  if (mark.inverted && mark.shapes.length > 0) return wholeOf(photo);
  const start = mark.shapes.findLastIndex((shape) => shape.combine === 'startOver');
  const shapes = mark.shapes.slice(Math.max(0, start));
  const frames = shapes.filter((shape) => shape.combine !== 'without').map(shapeBounds);
  const reach = Math.ceil(Math.max(0, mark.growPx) + mark.smoothPx + mark.featherPx + (mark.bandPx ?? 0)) + 2;
  const all = frames.reduce(unite, { x: 0, y: 0, width: 0, height: 0 });
  return intersect(inflate(all, all.width > 0 ? reach : 0), wholeOf(photo));
}

/** Rasterises a mark: its shapes combined in order, then grown, smoothed and feathered. Cost follows its frame. */
export function renderMark(mark: Mark, photo: Size): PlacedMask {
  const rect = markFrame(mark, photo);
  let mask = createMask(rect.width, rect.height);
  if (rect.width === 0 || rect.height === 0) return { rect, mask };
  for (const shape of mark.shapes) mask = combineMasks(mask, renderShape(shape, rect), shape.combine);
  if (mark.inverted) for (let i = 0; i < mask.data.length; i++) mask.data[i] = 255 - mask.data[i]!;
  mask = growMask(mask, mark.growPx);
  mask = smoothMask(mask, mark.smoothPx);
  if (mark.bandPx) mask = combineMasks(growMask(mask, mark.bandPx), growMask(mask, -mark.bandPx), 'without');
  mask = featherMask(mask, mark.featherPx);
  return { rect, mask };
}

/** The part of a placed mask under `rect`, which may reach beyond it. */
export const maskUnder = (placed: PlacedMask, rect: Rect): Mask =>
  cropMask(placed.mask, { ...rect, x: rect.x - placed.rect.x, y: rect.y - placed.rect.y });

/** A mask picture of the photo's size as a mark of one shape; nothing but its covered part is kept. A smaller
 * mask lies at `at`. */
export function markFromMask(mask: Mask, at = { x: 0, y: 0 }): Mark {
  const box = boundsOf(mask);
  const shapes: MarkShape[] = [];
  if (box.width > 0) {
    const deflated = bytesToBase64(deflateSync(cropMask(mask, box).data, { level: 6 }));
    shapes.push({ kind: 'raster', combine: 'startOver', ...translate(box, at.x, at.y), deflated });
  }
  return { shapes, growPx: 0, smoothPx: 0, featherPx: 0 };
}

/** The box of a shape, its brush's width included. */
export function shapeBounds(shape: MarkShape): Rect {
  if (shape.kind === 'raster') return { x: shape.x, y: shape.y, width: shape.width, height: shape.height };
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < shape.points.length; i += 2) {
    left = Math.min(left, shape.points[i]!);
    right = Math.max(right, shape.points[i]!);
    top = Math.min(top, shape.points[i + 1]!);
    bottom = Math.max(bottom, shape.points[i + 1]!);
  }
  const reach = shape.kind === 'stroke' ? shape.radiusPx + 1 : 0;
  const x = Math.floor(left - reach);
  const y = Math.floor(top - reach);
  return { x, y, width: Math.ceil(right + reach) - x, height: Math.ceil(bottom + reach) - y };
}

function renderShape(shape: MarkShape, rect: Rect): Mask {
  if (shape.kind === 'raster') {
    const out = createMask(rect.width, rect.height);
    pasteMask(out, { x: shape.x - rect.x, y: shape.y - rect.y }, unpackRaster(shape));
    return out;
  }
  const local = shape.points.map((value, i) => value - (i % 2 === 0 ? rect.x : rect.y));
  if (shape.kind === 'lasso') return rasterisePolygon(local, rect.width, rect.height);
  return rasteriseStroke(local, shape, rect.width, rect.height);
}

/** The coverage of a raster shape. Throws `invalid-recipe` for one that is damaged. */
export function unpackRaster(shape: Extract<MarkShape, { kind: 'raster' }>): Mask {
  const { width, height } = shape;
  const binary = atob(shape.deflated);
  let data: Uint8Array<ArrayBuffer>;
  try {
    data = inflateSync(
      Uint8Array.from(binary, (character) => character.charCodeAt(0)),
      { out: new Uint8Array(width * height) },
    ) as Uint8Array<ArrayBuffer>;
  } catch {
    throw new FingoError('invalid-recipe', 'A mark in this recipe is damaged; save the recipe again from its project.');
  }
  return { width, height, data };
}

function bytesToBase64(bytes: Uint8Array): string {
  let binary = '';
  for (let i = 0; i < bytes.length; i += 8192) binary += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return btoa(binary);
}
