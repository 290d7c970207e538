import { FingoError } from '../../core/errors.ts';
import type { Size } from '../../core/image/rect.ts';

export const isSphereSize = ({ width, height }: Size): boolean => width === 2 * height;

/** For what can't be done inside a direct view. */
export const onlySteps = (): FingoError =>
  new FingoError('not-a-sphere', 'In a direct view nothing gets another frame; leave the view first.');

/** For what only a direct view can give. */
export const noView = (): FingoError =>
  new FingoError('not-a-sphere', 'This is no direct view of a sphere; look around in one first.');

/** Throws `not-a-sphere` unless the picture is exactly twice as wide as high. */
export function requireSphere({ width, height }: Size): void {
  if (isSphereSize({ width, height })) return;
  throw new FingoError(
    'not-a-sphere',
    `This picture has ${width} x ${height} px; a sphere is exactly twice as wide as high. Open one that is, or work on this one as a flat picture.`,
  );
}
