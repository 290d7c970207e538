import type { BandFrame } from './bandFrame.ts';

/** Lines across a band that are looked at. */
const MAX_LINES = 24;

/** Corresponding places across a band: the same share of the way from outline to outline, or as far beyond the outermost. */
export interface AcrossBand {
  margin: number;
  /** Where what lies at `t` at s lies at `there`. */
  carry(t: number, s: number, there: number): number;
  /** Where the lines that are looked at lie at s. */
  lines(s: number): number[];
}

/** The places across a band, with `margin` px on both sides of its outermost outlines. */
export function acrossBand(frame: BandFrame, margin: number): AcrossBand {
  const carried = (t: number, own: Float64Array, other: Float64Array): number => {
    const last = own.length - 1;
    if (t <= own[0]!) return other[0]! + t - own[0]!;
    if (t >= own[last]!) return other[last]! + t - own[last]!;
    let k = 0;
    while (t > own[k + 1]!) k++;
    const share = (t - own[k]!) / Math.max(1e-6, own[k + 1]! - own[k]!);
    return other[k]! + share * (other[k + 1]! - other[k]!);
  };
  const atStart = frame.offsets(0);
  const [left, right] = [atStart[0]! - margin, atStart[atStart.length - 1]! + margin];
  const count = Math.max(5, Math.min(MAX_LINES, Math.round(right - left)));
  const canonical = Array.from({ length: count }, (_, k) => left + (k * (right - left)) / (count - 1));
  return {
    margin,
    carry: (t, s, there) => carried(t, frame.offsets(s), frame.offsets(there)),
    lines(s) {
      const there = frame.offsets(s);
      return canonical.map((t) => carried(t, atStart, there));
    },
  };
}
