const UNITS = ['bytes', 'kB', 'MB', 'GB'] as const;

/** A size in the largest unit that keeps it at 1 or above, powers of 1000. */
export function inBytes(bytes: number): string {
  const power = Math.max(0, Math.min(UNITS.length - 1, Math.floor(Math.log10(Math.max(1, bytes)) / 3)));
  const value = bytes / 1000 ** power;
  return `${value < 10 && power > 0 ? value.toFixed(1) : Math.round(value)} ${UNITS[power]}`;
}
