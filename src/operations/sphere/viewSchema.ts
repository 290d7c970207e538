import { z } from 'zod';

/** Wider views would stretch what lies at their edges beyond use. */
export const WIDEST_VIEW = 140;
export const NARROWEST_VIEW = 10;
/** Sides of a view in px. */
const side = z.int().min(16).max(6000);

/** A direct view into a sphere, in which a step was made; all its points and marks are in px of the view. */
export const viewSchema = z.object({
  yaw: z.number().min(-180).max(180),
  pitch: z.number().min(-90).max(90),
  roll: z.number().min(-180).max(180).default(0),
  fov: z.number().min(NARROWEST_VIEW).max(WIDEST_VIEW),
  width: side,
  height: side,
});
