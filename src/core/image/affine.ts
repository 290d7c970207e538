import { boundsOfPoints, type Rect } from './rect.ts';

/** x' = a x + b y + tx, y' = c x + d y + ty, in continuous coordinates (pixel centres at .5). */
export interface Affine {
  a: number;
  b: number;
  c: number;
  d: number;
  tx: number;
  ty: number;
}

/** How a thing is put elsewhere: scaled, turned and mirrored about its centre, then shifted. */
export interface Placement {
  dxPx: number;
  dyPx: number;
  scale: number;
  /** Radians, clockwise. */
  turn: number;
  mirror: 'none' | 'horizontal' | 'vertical';
}

/** The map from photo points of the thing (with centre `centre`) to photo points of its new place. */
export function placementToAffine(placement: Placement, centre: { x: number; y: number }): Affine {
  const { scale, turn, mirror, dxPx, dyPx } = placement;
  const sx = mirror === 'horizontal' ? -scale : scale;
  const sy = mirror === 'vertical' ? -scale : scale;
  const cos = Math.cos(turn);
  const sin = Math.sin(turn);
  const a = cos * sx;
  const b = -sin * sy;
  const c = sin * sx;
  const d = cos * sy;
  return {
    a,
    b,
    c,
    d,
    tx: centre.x + dxPx - a * centre.x - b * centre.y,
    ty: centre.y + dyPx - c * centre.x - d * centre.y,
  };
}

export const applyAffine = (m: Affine, x: number, y: number): { x: number; y: number } => ({
  x: m.a * x + m.b * y + m.tx,
  y: m.c * x + m.d * y + m.ty,
});

export function invertAffine(m: Affine): Affine {
  const determinant = m.a * m.d - m.b * m.c;
  const a = m.d / determinant;
  const b = -m.b / determinant;
  const c = -m.c / determinant;
  const d = m.a / determinant;
  return { a, b, c, d, tx: -(a * m.tx + b * m.ty), ty: -(c * m.tx + d * m.ty) };
}

/** The shift in px, if the map is nothing but one by whole pixels. */
export function wholeShift({ a, b, c, d, tx, ty }: Affine): { x: number; y: number } | undefined {
  const [x, y] = [Math.round(tx), Math.round(ty)];
  const rest = Math.max(Math.abs(a - 1), Math.abs(b), Math.abs(c), Math.abs(d - 1), Math.abs(tx - x), Math.abs(ty - y));
  return rest < 1e-9 ? { x, y } : undefined;
}

/** The smallest rectangle of whole pixels around the image of `rect`. */
export function affineBounds(m: Affine, rect: Rect): Rect {
  return boundsOfPoints([
    applyAffine(m, rect.x, rect.y),
    applyAffine(m, rect.x + rect.width, rect.y),
    applyAffine(m, rect.x, rect.y + rect.height),
    applyAffine(m, rect.x + rect.width, rect.y + rect.height),
  ]);
}
