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

/** Parses "DX,DY". */
export function parseShift(text: string): { dxPx: number; dyPx: number } {
  const match = /^(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)$/.exec(text);
  if (!match) throw new InvalidArgumentError('Give two numbers of px, like 120,-30.');
  return { dxPx: Number(match[1]), dyPx: Number(match[2]) };
}
