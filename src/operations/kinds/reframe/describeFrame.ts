import type { FrameParams } from './schema.ts';

/** A frame in words: "3000 x 2400 px, turned by 1.5 degrees, squared up". */
export function describeFrame({ turn, pitch, yaw, rect }: FrameParams): string {
  const degrees = Math.abs((turn * 180) / Math.PI);
  const parts = [`${rect.width} x ${rect.height} px`];
  if (degrees >= 0.05) parts.push(`turned by ${degrees.toFixed(1)} degrees`);
  if (pitch !== 0 || yaw !== 0) parts.push('squared up');
  return parts.join(', ');
}
