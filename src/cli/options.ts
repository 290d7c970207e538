import { InvalidArgumentError } from 'commander';

/** A parser for a number within bounds. */
export const numberBetween =
  (least: number, most: number, whole = false) =>
  (text: string): number => {
    const value = Number(text);
    if (text.trim() === '' || !Number.isFinite(value) || value < least || value > most) {
      throw new InvalidArgumentError(`Give a number from ${least} to ${most}.`);
    }
    if (whole && !Number.isInteger(value)) throw new InvalidArgumentError('Give a whole number.');
    return value;
  };

/** A parser for so many numbers, separated by commas. */
export const numbers =
  (count: number) =>
  (text: string): number[] => {
    const values = text.split(',').map(Number);
    if (values.length !== count || values.some((value) => !Number.isFinite(value) || Math.abs(value) > 1e5)) {
      throw new InvalidArgumentError(`Give ${count} numbers with commas between them.`);
    }
    return values;
  };

/** Parses "DX,DY". */
export function parseShift(text: string): { dxPx: number; dyPx: number } {
  const match = /^(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)$/.exec(text);
  if (!match) throw new InvalidArgumentError('Give two numbers of px, like 120,-30.');
  return { dxPx: Number(match[1]), dyPx: Number(match[2]) };
}
