import { z } from 'zod';
import { rotationAbout, type Rotation } from '../core/panorama/camera.ts';

const direction = z.tuple([z.number(), z.number(), z.number()]);
const rotation = z
  .array(z.number())
  .length(9)
  .transform((values) => values as unknown as Rotation);

/** What is chosen about a panorama, as it is kept and sent. */
export const panoramaSettingsSchema = z.object({
  projection: z.enum(['auto', 'planar', 'cylindrical', 'spherical']).default('auto'),
  turn: rotation.default(rotationAbout(0, 0, 0)),
  pulled: z
    .array(
      z.object({
        frame: z.int().min(0).max(254),
        path: z.array(direction).min(1).max(5000),
        radiusRad: z.number().positive().max(2),
      }),
    )
    .max(200)
    .default([]),
});

/** A part of a panorama, px of its projection; it may reach beyond what frames cover. */
export const partSchema = z.object({
  x: z.int().min(-1e5).max(1e5),
  y: z.int().min(-1e5).max(1e5),
  width: z.int().min(1).max(60_000),
  height: z.int().min(1).max(60_000),
});

export const joinSchema = z.object({
  gapPx: z.int().min(-4000).max(4000),
  tone: z.number().min(0).max(1),
});
