/** Ratios of width to height that pictures are wanted in, upright or square; the other way round they are swapped. */
export const RATIOS: readonly { label: string; ratio: number }[] = [
  { label: '1:1', ratio: 1 },
  { label: '2:3', ratio: 2 / 3 },
  { label: '3:4', ratio: 3 / 4 },
  { label: '4:5', ratio: 4 / 5 },
  { label: '5:7', ratio: 5 / 7 },
  { label: '9:16', ratio: 9 / 16 },
  { label: 'A paper', ratio: Math.SQRT1_2 },
  { label: 'Letter', ratio: 8.5 / 11 },
];

/** Reads "4:5", "16 : 9" or "1.5"; undefined for anything that is no ratio from 1:20 to 20:1. */
export function parseRatio(text: string): number | undefined {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*(?:[:x/]\s*(\d+(?:[.,]\d+)?))?\s*$/.exec(text);
  if (!match) return undefined;
  const ratio = Number(match[1]!.replace(',', '.')) / Number((match[2] ?? '1').replace(',', '.'));
  return ratio >= 0.05 && ratio <= 20 ? ratio : undefined;
}
