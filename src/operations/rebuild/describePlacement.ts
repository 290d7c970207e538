import type { PlacementParams } from './rebuildSchema.ts';

/** Where something was put, in words: "560 px right, 5 px up, at 80 %". */
export function describePlacement({ dxPx, dyPx, scale, turn, mirror }: PlacementParams): string {
  const parts = shiftParts({ dxPx, dyPx });
  if (scale !== 1) parts.push(`at ${Math.round(scale * 100)} %`);
  if (turn) parts.push(`turned by ${Math.round((turn * 180) / Math.PI)} degrees`);
  if (mirror !== 'none') parts.push('mirrored');
  return parts.join(', ') || 'in place';
}

/** A way in words: "120 px left, 8 px down". */
export const describeShift = (shift: { dxPx: number; dyPx: number }): string =>
  shiftParts(shift).join(', ') || 'no distance';

function shiftParts({ dxPx, dyPx }: { dxPx: number; dyPx: number }): string[] {
  const [right, down] = [Math.round(dxPx), Math.round(dyPx)];
  return [
    ...(right ? [`${Math.abs(right)} px ${right > 0 ? 'right' : 'left'}`] : []),
    ...(down ? [`${Math.abs(down)} px ${down > 0 ? 'down' : 'up'}`] : []),
  ];
}
