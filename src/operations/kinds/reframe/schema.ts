import { z } from 'zod';
import { AS_TAKEN } from '../../../core/geometry/frameGeometry.ts';
import { EDGE_SIDES, type EdgeSide } from '../../../core/measures/thingsAtEdge.ts';
import { rebuildLight, rebuildShape } from '../../rebuild/rebuildSchema.ts';

const angle = z.number().min(-Math.PI).max(Math.PI);
const tilt = z.number().min(-1.2).max(1.2);
/** Longest side of a frame, in px. */
export const LONGEST_FRAME_PX = 30_000;
const side = z.int().min(1).max(LONGEST_FRAME_PX);
const coordinate = z.int().min(-LONGEST_FRAME_PX).max(LONGEST_FRAME_PX);

/** How the photo is set upright, and the frame in px of the upright photo. */
export const frameSchema = z.object({
  turn: angle.default(AS_TAKEN.turn),
  pitch: tilt.default(AS_TAKEN.pitch),
  yaw: tilt.default(AS_TAKEN.yaw),
  focal: z.number().min(0.4).max(5).default(AS_TAKEN.focal),
  rect: z.object({ x: coordinate, y: coordinate, width: side, height: side }),
});

export const SIDES = EDGE_SIDES;
export type Side = EdgeSide;

const { donors, protect, planes, runOn, take, closeness } = rebuildShape;

/** Marks, planes and lines lie in px of the upright photo, so that a dragged frame leaves them where they are. */
export const reframeSchema = z.object({
  frame: frameSchema,
  /** The sides on which what the photo leaves vacant is rebuilt; on the others it stays vacant. */
  sides: z
    .array(z.enum(SIDES))
    .max(4)
    .default([...SIDES]),
  /** By so many px the rebuilt part overlaps the photo. */
  rimPx: z.int().min(0).max(400).default(4),
  /** In how many steps outward. */
  passes: z.int().min(1).max(6).default(1),
  donors,
  protect,
  planes,
  runOn,
  take,
  closeness,
  light: rebuildLight,
});

export type FrameParams = z.infer<typeof frameSchema>;
export type ReframeParams = z.infer<typeof reframeSchema>;
