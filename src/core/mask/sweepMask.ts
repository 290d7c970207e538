import type { Mask } from './mask.ts';

/** All that a mask passes over while it is carried by (dx, dy) px, in whole px: the highest value that came there. */
export function sweepMask(mask: Mask, dx: number, dy: number): Mask {
  const length = Math.ceil(Math.hypot(dx, dy));
  let swept = mask;
  // Each turn carries what was swept so far on by its own length.
  for (let done = 0, step = 1; done < length; step *= 2) {
    const by = Math.min(step, length - done);
    swept = withCarried(swept, Math.round((by * dx) / length), Math.round((by * dy) / length));
    done += by;
  }
  return swept;
}

function withCarried({ width, height, data }: Mask, dx: number, dy: number): Mask {
  const out = data.slice();
  const [left, right] = [Math.max(0, dx), Math.min(width, width + dx)];
  for (let y = Math.max(0, dy); y < Math.min(height, height + dy); y++) {
    const from = (y - dy) * width - dx;
    for (let x = left; x < right; x++) out[y * width + x] = Math.max(out[y * width + x]!, data[from + x]!);
  }
  return { width, height, data: out };
}
