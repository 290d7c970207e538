import { patchDifference } from '../../../../core/measures/patchDifference.ts';
import type { Patch } from '../../../../operations/computation.ts';

/** Below so many levels places don't differ to the eye. */
const SMALLEST_DIFFERENCE = 0.5;

/**
 * Which of the places that takes change (the old one, the new one, ...) tells them apart best: the one where they differ
 * most from the first, or the largest where they hardly do.
 */
export function tellingPatch(takes: readonly (readonly Patch[])[]): number {
  const [first, ...others] = takes;
  if (!first) return 0;
  const differences = first.map((patch, k) =>
    Math.max(0, ...others.flatMap((other) => (other[k] ? [patchDifference([patch], [other[k]])] : []))),
  );
  const areas = first.map(({ rect }) => rect.width * rect.height);
  const most = Math.max(...differences);
  return most >= SMALLEST_DIFFERENCE ? differences.indexOf(most) : areas.indexOf(Math.max(...areas));
}
