import { uprightHomography, type FrameGeometry } from '../../../core/geometry/frameGeometry.ts';
import { applyHomography, invertHomography, type Homography } from '../../../core/geometry/homography.ts';
import type { DrawnLine } from '../../../core/geometry/uprightFrom.ts';
import type { Size } from '../../../core/image/rect.ts';

// Drawn lines are kept in px of the photo, so that they stay on what they were drawn along.

/** Lines of the photo, as they lie in the upright photo. */
export function uprightLines(lines: readonly DrawnLine[], frame: FrameGeometry, photo: Size): DrawnLine[] {
  const map = uprightHomography(frame, photo);
  return lines.map((line) => through(map, line));
}

/** A line of the upright photo, as it lies in the photo. */
export const lineOfPhoto = (line: DrawnLine, frame: FrameGeometry, photo: Size): DrawnLine =>
  through(invertHomography(uprightHomography(frame, photo)), line);

const through = (map: Homography, { from, to }: DrawnLine): DrawnLine => ({
  from: applyHomography(map, from.x, from.y),
  to: applyHomography(map, to.x, to.y),
});
