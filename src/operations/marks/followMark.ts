import { boundsOfPoints, unite, type Rect } from '../../core/image/rect.ts';
import { createMask } from '../../core/mask/mask.ts';
import { scaleAt, type Mapping } from '../following.ts';
import type { Mark, MarkShape } from './markSchema.ts';
import { markFromMask, shapeBounds, unpackRaster } from './renderMark.ts';

/** A mark moved by whole px. */
export const shiftMark = (mark: Mark, dx: number, dy: number): Mark => ({
  ...mark,
  shapes: mark.shapes.map((shape): MarkShape => {
    if (shape.kind === 'raster') return { ...shape, x: shape.x + dx, y: shape.y + dy };
    return { ...shape, points: shape.points.map((value, k) => value + (k % 2 === 0 ? dx : dy)) };
  }),
});

/** Lines become curves where a picture is stretched: they are followed in pieces of so many px. */
const PIECE_PX = 48;

/** A mark at the places that a mapping gives it; its reach (grown, feathered px) is scaled with what lies there. */
export function followMark(mark: Mark, by: Mapping): Mark {
  if (by.shift) return shiftMark(mark, by.shift.dx, by.shift.dy);
  if (mark.shapes.length === 0) return mark;
  const scale = scaleAt(by, middleOf(mark.shapes.map(shapeBounds).reduce(unite)));
  const scaled = (px: number): number => Math.round(px * scale * 10) / 10;
  return {
    ...mark,
    growPx: scaled(mark.growPx),
    smoothPx: scaled(mark.smoothPx),
    featherPx: scaled(mark.featherPx),
    ...(mark.bandPx !== undefined && { bandPx: scaled(mark.bandPx) }),
    shapes: mark.shapes.flatMap((shape) => followShape(shape, by)),
  };
}

function followShape(shape: MarkShape, by: Mapping): MarkShape[] {
  if (shape.kind === 'raster') return followRaster(shape, by);
  const points = inPieces(shape.points, shape.kind === 'lasso').flatMap(([x, y]) => {
    const at = by.to({ x, y });
    return [at.x, at.y];
  });
  if (shape.kind === 'lasso') return [{ ...shape, points }];
  const radiusPx = Math.max(0.5, Math.min(4000, shape.radiusPx * scaleAt(by, middleOf(shapeBounds(shape)))));
  return [{ ...shape, points, radiusPx }];
}

function followRaster(shape: Extract<MarkShape, { kind: 'raster' }>, by: Mapping): MarkShape[] {
  const { x, y, width, height } = shape;
  const from = unpackRaster(shape);
  const outline = inPieces([x, y, x + width, y, x + width, y + height, x, y + height], true);
  const box = boundsOfPoints(outline.map(([px, py]) => by.to({ x: px, y: py })));
  const out = createMask(box.width, box.height);
  const at = (column: number, row: number): number =>
    column >= 0 && row >= 0 && column < width && row < height ? from.data[row * width + column]! : 0;
  for (let row = 0; row < box.height; row++) {
    for (let column = 0; column < box.width; column++) {
      const source = by.back({ x: box.x + column + 0.5, y: box.y + row + 0.5 });
      const [u, v] = [source.x - x - 0.5, source.y - y - 0.5];
      const [i, j] = [Math.floor(u), Math.floor(v)];
      const above = at(i, j) + (u - i) * (at(i + 1, j) - at(i, j));
      const below = at(i, j + 1) + (u - i) * (at(i + 1, j + 1) - at(i, j + 1));
      out.data[row * box.width + column] = Math.round(above + (v - j) * (below - above));
    }
  }
  return markFromMask(out, box).shapes.map((each) => ({
    ...each,
    combine: shape.combine,
    ...(shape.found && { found: shape.found }),
  }));
}

/** The points of a line, and more between those far apart. */
function inPieces(points: readonly number[], isClosed: boolean): [number, number][] {
  const out: [number, number][] = [];
  const count = points.length / 2;
  for (let k = 0; k < count; k++) {
    const [x, y] = [points[2 * k]!, points[2 * k + 1]!];
    out.push([x, y]);
    if (k + 1 === count && !isClosed) break;
    const next = (k + 1) % count;
    const [dx, dy] = [points[2 * next]! - x, points[2 * next + 1]! - y];
    const pieces = Math.ceil(Math.hypot(dx, dy) / PIECE_PX);
    for (let i = 1; i < pieces; i++) out.push([x + (i / pieces) * dx, y + (i / pieces) * dy]);
  }
  return out;
}

const middleOf = ({ x, y, width, height }: Rect) => ({ x: x + width / 2, y: y + height / 2 });

/** The middle of what a mark's shapes cover, taken for the place it is about. */
export const middleOfMark = (mark: Mark): { x: number; y: number } =>
  mark.shapes.length === 0 ? { x: 0, y: 0 } : middleOf(mark.shapes.map(shapeBounds).reduce(unite));
