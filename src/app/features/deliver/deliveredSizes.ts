import type { Size } from '../../../core/image/rect.ts';

/** Exact sizes that are often asked for. */
const EXACT: readonly Size[] = [
  { width: 1080, height: 1920 },
  { width: 1920, height: 1080 },
  { width: 3840, height: 2160 },
  { width: 2160, height: 3840 },
  { width: 1080, height: 1350 },
  { width: 1080, height: 1080 },
];
/** Ratios this near count as one: a px more or less. */
const NEAR = 0.004;
const LONGER_SIDES = [4000, 2560, 1600, 1080] as const;

/** The sizes that a picture can be delivered at without changing its form: its own, exact ones, smaller ones. */
export function deliveredSizes(own: Size): Size[] {
  const ratio = own.width / own.height;
  const exact = EXACT.filter((size) => Math.abs(size.width / size.height / ratio - 1) < NEAR);
  const smaller = LONGER_SIDES.map((longest) => scaledTo(own, longest)).filter(
    (size) => size.width < own.width && !exact.some((other) => sameSize(size, other)),
  );
  return [own, ...exact.filter((size) => !sameSize(size, own)), ...smaller];
}

export const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height;

function scaledTo(own: Size, longest: number): Size {
  const scale = longest / Math.max(own.width, own.height);
  return {
    width: Math.max(1, Math.round(own.width * scale)),
    height: Math.max(1, Math.round(own.height * scale)),
  };
}
