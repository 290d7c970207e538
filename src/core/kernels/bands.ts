/** Rows of targets, or of a grid, that one thread does in one go. */
export const BAND_ROWS = 16;
/** Hole pixels that one thread does in one go. */
export const BAND_PIXELS = 128;

export const bandCount = (length: number, size: number): number => Math.ceil(length / size);

/** Rows of a picture that one thread does in one go. */
const PICTURE_ROWS = 32;

/** The bands in which a picture's rows are done. */
export const rowBands = (height: number): number => bandCount(height, PICTURE_ROWS);

/** The rows of one of those bands, `to` left out. */
export const rowsOfBand = (band: number, height: number): { from: number; to: number } => ({
  from: band * PICTURE_ROWS,
  to: Math.min(height, (band + 1) * PICTURE_ROWS),
});

/** Every `stride`-th band from `first` on. */
export interface BandRun {
  first: number;
  stride: number;
  count: number;
}

/**
 * The two halves of a pass over bands that read their neighbours' rows: every second band, then the others (the other
 * way round for a pass that runs backwards). Within a half no band reads what another one writes, so that the result
 * does not depend on who does which band when.
 */
export function alternateBands(count: number, forward: boolean): readonly BandRun[] {
  const even = { first: 0, stride: 2, count: Math.ceil(count / 2) };
  const odd = { first: 1, stride: 2, count: Math.floor(count / 2) };
  return forward ? [even, odd] : [odd, even];
}
