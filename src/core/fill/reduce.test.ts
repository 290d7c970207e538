import { reduceRow, SUMS_PER_CELL, type PhotoStrip } from './reduce.ts';

/** A strip of grey pixels (0 to 255), in rows; '#' is hole. */
function stripOf(rows: readonly (readonly (number | '#')[])[], change: Partial<PhotoStrip> = {}): PhotoStrip {
  const width = rows[0]!.length;
  const pixels = rows.flat();
  return {
    width,
    rows: rows.length,
    below: false,
    factor: 2,
    pixels: Uint8Array.from(pixels.flatMap((value) => (value === '#' ? [9, 9, 9, 255] : [value, value, value, 255]))),
    holes: Uint8Array.from(pixels, (value) => (value === '#' ? 255 : 0)),
    donors: new Uint8Array(pixels.length).fill(255),
    ...change,
  };
}

function reduced(strip: PhotoStrip) {
  const width = Math.ceil(strip.width / strip.factor);
  const work = { width, sums: new Int32Array(width * SUMS_PER_CELL).fill(7), flags: new Uint8Array(width).fill(7) };
  reduceRow(strip, work, 0);
  return work;
}

test('a cell sums up luma, blue, red and gradients of its pixels', () => {
  const { sums, flags } = reduced(
    stripOf([
      [10, 13, 50],
      [14, 17, 50],
    ]),
  );
  // Steps to the right and below: (3, 4), (37, 4), (3, 0), (33, 0); luma counts 256 times.
  const gradients = 5 + Math.sqrt(37 ** 2 + 4 ** 2) + 3 + 33;
  const [luma, blue, red, gradient, count] = sums;
  expect([luma, blue, red, count]).toEqual([256 * 54, 54, 54, 4]);
  expect(Math.abs(gradient! - 256 * gradients)).toBeLessThan(1);
  // The column that sticks out is a cell of what there is.
  expect(Array.from(sums.subarray(SUMS_PER_CELL))).toEqual([256 * 100, 100, 100, 0, 2]);
  expect(Array.from(flags)).toEqual([0, 0]);
});

test('a hole adds nothing, no gradient reaches into it, and its cell is hole', () => {
  const { sums, flags } = reduced(
    stripOf([
      [10, '#', 30, 30],
      [10, 10, 30, 30],
    ]),
  );
  expect(Array.from(sums.subarray(0, SUMS_PER_CELL))).toEqual([256 * 30, 30, 30, 256 * 20, 3]);
  expect(Array.from(flags)).toEqual([3, 0]);
});

test('what is transparent or no donor is known, but not to be copied from', () => {
  const strip = stripOf([
    [10, 10, 10, 10],
    [10, 10, 10, 10],
  ]);
  strip.pixels[3] = 254;
  strip.donors[7] = 0;
  const { sums, flags } = reduced(strip);
  expect(Array.from(flags)).toEqual([2, 2]);
  expect([sums[4], sums[4 + SUMS_PER_CELL]]).toEqual([4, 4]);
});

test('gradients of the last row look at the row below the strip, if there is one', () => {
  const rows = [
    [10, 10],
    [10, 10],
    [16, 16],
  ];
  const strip = stripOf(rows, { rows: 2 });
  expect(reduced({ ...strip, below: true }).sums[3]).toBe(256 * 12);
  expect(reduced({ ...strip, below: false }).sums[3]).toBe(0);
});
