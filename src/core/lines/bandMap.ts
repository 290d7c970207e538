import { boundsOfPoints, inflate, intersect, isEmpty, wholeOf, type Rect, type Size } from '../image/rect.ts';
import type { BandFrame } from './bandFrame.ts';

/** Which place of a band each pixel in and beside it shows; not a number elsewhere. */
export interface BandMap {
  box: Rect;
  s: Float32Array;
  t: Float32Array;
}

/** So many px beside a band are told, too: seams are looked at from both sides. */
const BESIDE_PX = 3;
/** Places are looked at so many px apart, so that none falls between. */
const FINE_PX = 0.5;

/** Tells which places of a band, with `margin` px on both sides, lie in a picture; undefined where none does. */
export function bandMap(frame: BandFrame, margin: number, picture: Size): BandMap | undefined {
  // Rows of places, each from the left to the right of the band.
  const count = Math.floor((frame.length + 2 * BESIDE_PX) / FINE_PX) + 1;
  const rows = Array.from({ length: count }, (_, k) => {
    const s = k * FINE_PX - BESIDE_PX;
    const offsets = frame.offsets(s);
    const [left, right] = [offsets[0]! - margin - BESIDE_PX, offsets[offsets.length - 1]! + margin + BESIDE_PX];
    return { s, left, right, middle: frame.at(s, 0), along: frame.along(s) };
  });
  const ends = rows.flatMap(({ s, left, right }) => [frame.at(s, left), frame.at(s, right)]);
  const [low, high] = [
    { x: Infinity, y: Infinity },
    { x: -Infinity, y: -Infinity },
  ];
  for (const { x, y } of ends) {
    [low.x, low.y] = [Math.min(low.x, x), Math.min(low.y, y)];
    [high.x, high.y] = [Math.max(high.x, x), Math.max(high.y, y)];
  }
  const box = intersect(inflate(boundsOfPoints([low, high]), 1), wholeOf(picture));
  if (isEmpty(box)) return undefined;
  const size = box.width * box.height;
  const [sOf, tOf] = [new Float32Array(size).fill(NaN), new Float32Array(size).fill(NaN)];
  const nearest = new Float32Array(size).fill(Infinity);
  for (const { s, left, right, middle, along } of rows) {
    for (let t = left; t <= right; t += FINE_PX) {
      const x = middle.x - t * along.y - box.x;
      const y = middle.y + t * along.x - box.y;
      const u = Math.floor(x);
      const v = Math.floor(y);
      if (u < 0 || v < 0 || u >= box.width || v >= box.height) continue;
      const i = v * box.width + u;
      const dx = u + 0.5 - x;
      const dy = v + 0.5 - y;
      const away = dx * dx + dy * dy;
      if (away >= nearest[i]!) continue;
      nearest[i] = away;
      sOf[i] = s + dx * along.x + dy * along.y;
      tOf[i] = t - dx * along.y + dy * along.x;
    }
  }
  return { box, s: sOf, t: tOf };
}
