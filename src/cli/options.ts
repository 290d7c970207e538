import { InvalidArgumentError } from 'commander';
import { NARROWEST_VIEW, WIDEST_VIEW } from '../operations/sphere/viewSchema.ts';

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

/** Parses "YAW,PITCH,FOV", in degrees. */
export function parseView(text: string): { yaw: number; pitch: number; fov: number } {
  const view = text.split(',').map(Number);
  const [yaw = NaN, pitch = NaN, fov = NaN] = view;
  if (
    view.length !== 3 ||
    !(Math.abs(yaw) <= 180) ||
    !(Math.abs(pitch) <= 90) ||
    !(fov >= NARROWEST_VIEW && fov <= WIDEST_VIEW)
  ) {
    throw new InvalidArgumentError(
      `Give yaw (-180 to 180), pitch (-90 to 90) and angle of view (${NARROWEST_VIEW} to ${WIDEST_VIEW}), like 0,-90,100.`,
    );
  }
  return { yaw, pitch, fov };
}

/** Parses "W:H", as width by height. */
export function parseRatio(text: string): number {
  const match = /^(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)$/.exec(text);
  const ratio = match ? Number(match[1]) / Number(match[2]) : NaN;
  if (!(ratio >= 0.05 && ratio <= 20)) throw new InvalidArgumentError('Give a ratio like 4:5, from 1:20 to 20:1.');
  return ratio;
}

/** A parser that takes "auto", too. */
export const orAuto =
  <T>(parse: (text: string) => T) =>
  (text: string): T | 'auto' =>
    text === 'auto' ? text : parse(text);

/** Parses "DX,DY". */
export function parseShift(text: string): { dxPx: number; dyPx: number } {
  const match = /^(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)$/.exec(text);
  if (!match) throw new InvalidArgumentError('Give two numbers of px, like 120,-30.');
  return { dxPx: Number(match[1]), dyPx: Number(match[2]) };
}
