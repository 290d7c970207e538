/** The two places of a grid of `size` that a coordinate lies between, and how far it is on from the first. */
export interface Between {
  low: number;
  high: number;
  share: number;
}

/** For centres of cells at whole numbers; what lies outside counts as the nearest cell. */
export function interpolation(at: number, size: number): Between {
  const place = Math.max(0, Math.min(size - 1, at));
  const low = Math.floor(place);
  return { low, high: Math.min(size - 1, low + 1), share: place - low };
}

/** A plane's value between its cells, bilinear. */
export function interpolated(plane: Float32Array, width: number, column: Between, row: Between): number {
  const top = mix(plane[row.low * width + column.low]!, plane[row.low * width + column.high]!, column.share);
  const bottom = mix(plane[row.high * width + column.low]!, plane[row.high * width + column.high]!, column.share);
  return mix(top, bottom, row.share);
}

export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
