/** Luma of the px that begins at `i` of RGBA data, on encoded values (ITU-R BT.601), 0..255 and not rounded. */
export const lumaAt = (data: ArrayLike<number>, i: number): number =>
  0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!;
