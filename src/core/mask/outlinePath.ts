import { FingoError } from '../errors.ts';

/** Outlines of letters are drawn with so many units to the size of the letters. */
export const UNITS_PER_EM = 1000;

/** A curve is cut into pieces that are off it by no more than about this, px. */
const TOLERANCE_PX = 0.03;
const MAX_PIECES = 60;
/** How many numbers follow each command. */
const LENGTHS = { M: 2, L: 2, Q: 4, C: 6, Z: 0 } as const;

/** How a path is laid on a picture: path coordinates times `scale`, then moved. */
export interface PathPlace {
  scale: number;
  x: number;
  y: number;
}

/**
 * The closed contours (x0, y0, x1, y1, ... in px) of a path of absolute M, L, Q, C and Z commands, written as in SVG
 * (W3C, SVG 1.1, section 8.3). Throws `invalid-recipe` for anything else.
 */
export function contoursOfPath(path: string, { scale, x: left, y: top }: PathPlace): number[][] {
  const contours: number[][] = [];
  let contour: number[] = [];
  let [x, y] = [0, 0];
  const point = (u: number, v: number): void => {
    contour.push(u * scale + left, v * scale + top);
    [x, y] = [u, v];
  };
  for (const [, command, text] of path.matchAll(/([A-Za-z])([^A-Za-z]*)/g)) {
    const values = (text!.match(/-?(?:\d+\.?\d*|\.\d+)/g) ?? []).map(Number);
    if (!(command! in LENGTHS) || values.length !== LENGTHS[command as keyof typeof LENGTHS]) throw unreadable();
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = values;
    if (command === 'M') {
      contour = [];
      contours.push(contour);
    } else if (contours.length === 0) throw unreadable();
    if (command === 'M' || command === 'L') point(a, b);
    if (command === 'Q')
      curve(
        [x, y],
        [x + (2 / 3) * (a - x), y + (2 / 3) * (b - y)],
        [c + (2 / 3) * (a - c), d + (2 / 3) * (b - d)],
        [c, d],
      );
    if (command === 'C') curve([x, y], [a, b], [c, d], [e, f]);
  }
  return contours.filter(({ length }) => length >= 6);

  function curve(p: Pair, q: Pair, r: Pair, s: Pair): void {
    // Twice the second difference bounds how far a curve bends away from its chord.
    const bend = Math.max(
      Math.hypot(p[0] - 2 * q[0] + r[0], p[1] - 2 * q[1] + r[1]),
      Math.hypot(q[0] - 2 * r[0] + s[0], q[1] - 2 * r[1] + s[1]),
    );
    const pieces = Math.max(1, Math.min(MAX_PIECES, Math.ceil(Math.sqrt((0.75 * bend * scale) / TOLERANCE_PX))));
    for (let k = 1; k <= pieces; k++) {
      const t = k / pieces;
      const u = 1 - t;
      const at = (c: 0 | 1): number =>
        u * u * u * p[c] + 3 * u * u * t * q[c] + 3 * u * t * t * r[c] + t * t * t * s[c];
      point(at(0), at(1));
    }
  }
}

type Pair = readonly [number, number];

const unreadable = (): FingoError =>
  new FingoError('invalid-recipe', 'An outline in this recipe is damaged; save the recipe again from its project.');
