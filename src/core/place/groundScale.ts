export interface GroundPlacement {
  dxPx: number;
  dyPx: number;
  scale: number;
}

/** Nearer to the horizon than this share of its distance now, a thing would shrink to nothing. */
const MIN_SCALE = 0.05;
const LARGEST_SCALE = 20;

/**
 * The placement that keeps a thing believable on level ground when its foot is dragged: things of one size stand at
 * heights of the picture that differ from the horizon's as their sizes do. `foot` and `centre` are heights in the
 * picture (px) of where the thing stands and of the point that placing scales about; `shift` is how far the foot is
 * dragged. Where the foot is at the horizon or crosses it, the scale stays 1.
 * A. Criminisi, I. Reid, A. Zisserman: Single View Metrology, IJCV, 2000.
 */
export function groundPlacement(
  horizon: number,
  foot: number,
  centre: number,
  shift: { dxPx: number; dyPx: number },
): GroundPlacement {
  const before = foot - horizon;
  const after = foot + shift.dyPx - horizon;
  const ratio = after / before;
  const scale = before === 0 || !(ratio > 0) ? 1 : Math.max(MIN_SCALE, Math.min(LARGEST_SCALE, ratio));
  // Scaling about the centre moves the foot: that is taken back.
  return { dxPx: shift.dxPx, dyPx: Math.round(shift.dyPx + (1 - scale) * (foot - centre)), scale };
}

/** How far a foot was dragged to give this placement: the inverse of `groundPlacement`'s shift. */
export const footShift = (
  foot: number,
  centre: number,
  { dxPx, dyPx, scale }: GroundPlacement,
): { dxPx: number; dyPx: number } => ({ dxPx, dyPx: dyPx - (1 - scale) * (foot - centre) });
