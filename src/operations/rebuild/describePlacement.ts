import type { PlacementParams } from './rebuildSchema.ts';

/** Where something was put, in words: "560 px right, 5 px up, at 80 %". */
export function describePlacement({ dxPx, dyPx, scale, turn, mirror }: PlacementParams): string {
  const parts: string[] = [];
  if (dxPx) parts.push(`${Math.abs(dxPx)} px ${dxPx > 0 ? 'right' : 'left'}`);
  if (dyPx) parts.push(`${Math.abs(dyPx)} px ${dyPx > 0 ? 'down' : 'up'}`);
  if (scale !== 1) parts.push(`at ${Math.round(scale * 100)} %`);
  if (turn) parts.push(`turned by ${Math.round((turn * 180) / Math.PI)} degrees`);
  if (mirror !== 'none') parts.push('mirrored');
  return parts.join(', ') || 'in place';
}
