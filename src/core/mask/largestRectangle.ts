import type { Rect, Size } from '../image/rect.ts';

/**
 * The largest rectangle (by area) of pixels that all hold, found row by row from the height of what holds above each
 * column, the open candidates on a stack. Empty where none holds. O(pixels).
 */
export function largestRectangle({ width, height }: Size, holds: (index: number) => boolean): Rect {
  let best: Rect = { x: 0, y: 0, width: 0, height: 0 };
  const above = new Int32Array(width + 1);
  const starts = new Int32Array(width + 1);
  const heights = new Int32Array(width + 1);
  for (let y = 0; y < height; y++) {
    let open = 0;
    // The last column has height 0: it closes all candidates.
    for (let x = 0; x <= width; x++) {
      if (x < width) above[x] = holds(y * width + x) ? above[x]! + 1 : 0;
      let start = x;
      while (open > 0 && heights[open - 1]! >= above[x]!) {
        open--;
        start = starts[open]!;
        const tall = heights[open]!;
        if (tall * (x - start) > best.width * best.height) {
          best = { x: start, y: y - tall + 1, width: x - start, height: tall };
        }
      }
      starts[open] = start;
      heights[open] = above[x]!;
      open++;
    }
  }
  return best;
}
