import { z } from 'zod';
import { rotationOf } from '../../../core/panorama/camera.ts';
import { carriedOnly } from '../../carriedOnly.ts';
import { defineKind } from '../../kind.ts';
import { takeSchema } from '../../rebuild/rebuildSchema.ts';
import { requireSphere } from '../../sphere/requireSphere.ts';

const RADIANS = Math.PI / 180;

/** By how much all that is around is turned, degrees: to the right, up, clockwise. */
export const turnSchema = z.object({
  yaw: z.number().min(-180).max(180).default(0),
  pitch: z.number().min(-90).max(90).default(0),
  roll: z.number().min(-180).max(180).default(0),
});

export type SphereTurn = z.infer<typeof turnSchema>;

const turnSphereSchema = z.object({ ...turnSchema.shape, take: takeSchema });

/** The turn as a rotation of directions. */
export const rotationOfTurn = ({ yaw, pitch, roll }: SphereTurn) =>
  rotationOf({ yaw: yaw * RADIANS, pitch: pitch * RADIANS, roll: roll * RADIANS });

/** A sphere set level, or turned so that something else lies straight ahead. */
export const turnSphere = defineKind<'turnSphere', z.infer<typeof turnSphereSchema>, SphereTurn>({
  ...carriedOnly,
  type: 'turnSphere',
  version: 1,
  title: 'Level',
  schema: turnSphereSchema,
  summarize: ({ pitch, roll }) => `Levelled by ${pitch.toFixed(1)}° and ${roll.toFixed(1)}°`,
  turn: rotationOfTurn,
  reshape(params, photo) {
    requireSphere(photo);
    return { warps: [], turn: rotationOfTurn(params), size: photo };
  },
  follow: (params) => params,
  draft: {
    job: 'around',
    isOffered: false,
    schema: turnSchema,
    begin: () => turnSchema.parse({}),
    toParams: (_draft, own) => own,
    toDraft: ({ yaw, pitch, roll }) => ({ common: {}, own: { yaw, pitch, roll } }),
    isPlain: () => true,
    remakesTakes: false,
  },
});
