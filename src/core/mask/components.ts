import type { Mask } from './mask.ts';

/**
 * The separate areas of a mask, largest first: sets of pixels above 0 that touch at their sides, each as a mask of the
 * same size with the mask's own strengths. Areas of fewer than `fewestPx` pixels are left out.
 */
export function separateAreas(mask: Mask, fewestPx = 16): Mask[] {
  const { width, height, data } = mask;
  const seen = new Uint8Array(data.length);
  const areas: { mask: Mask; pixels: number }[] = [];
  for (let seed = 0; seed < data.length; seed++) {
    if (!data[seed] || seen[seed]) continue;
    const pixels = [seed];
    seen[seed] = 1;
    for (let k = 0; k < pixels.length; k++) {
      const pixel = pixels[k]!;
      const x = pixel % width;
      const neighbours = [
        x > 0 ? pixel - 1 : -1,
        x + 1 < width ? pixel + 1 : -1,
        pixel - width,
        pixel + width < width * height ? pixel + width : -1,
      ];
      for (const next of neighbours) {
        if (next < 0 || !data[next] || seen[next]) continue;
        seen[next] = 1;
        pixels.push(next);
      }
    }
    if (pixels.length < fewestPx) continue;
    const area = { width, height, data: new Uint8Array(data.length) };
    for (const pixel of pixels) area.data[pixel] = data[pixel]!;
    areas.push({ mask: area, pixels: pixels.length });
  }
  return areas.sort((a, b) => b.pixels - a.pixels).map((area) => area.mask);
}
