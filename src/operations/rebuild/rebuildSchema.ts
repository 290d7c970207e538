import { z } from 'zod';
import { markSchema } from '../marks/markSchema.ts';
import { viewSchema } from '../sphere/viewSchema.ts';

/** Which of the possible results: how it was looked for, and from which seed. */
export const takeSchema = z.object({ strategy: z.string().max(40), seed: z.int().min(0).max(0x7fffffff) });

const percent = z.number().min(0).max(100);
const coordinate = z.number().min(-1e5).max(1e5);
const widthPx = z.number().min(0).max(1e4);
const corner = z.object({ x: coordinate, y: coordinate });

/** A flat surface in perspective: the corners of a rectangle on it, in order, in photo points. */
export const planeSchema = z.object({
  corners: z.tuple([corner, corner, corner, corner]),
  /** Off: nothing is rebuilt along it. */
  on: z.boolean().default(true),
});

/** How many lines at most are set to run on. */
export const MOST_LINES = 40;
/** Points of such a line. */
export const MOST_POINTS = 12;

/** A line that runs on through what is rebuilt, or a band: it leads through all of its points, in photo points. */
export const runOnSchema = z.strictObject({
  points: z.array(corner).min(2).max(MOST_POINTS),
  /** How wide the band is where it begins and where it ends, px; 0: a single outline. */
  widthsPx: z.tuple([widthPx, widthPx]),
  /** Off: it is not drawn. */
  on: z.boolean().default(true),
});

/** What every step that rebuilds a marked area has in common. */
export const rebuildShape = {
  mark: markSchema,
  /** Where new pixels may come from; without it, all around the mark. */
  donors: markSchema.optional(),
  /** What stays as it is even under the mark, to the pixel. */
  protect: markSchema.optional(),
  /** The planes to rebuild along; without it, those that are found. An empty list: none. */
  planes: z.array(planeSchema).max(8).optional(),
  /** The lines that run on; without it, those that are found. An empty list: none. */
  runOn: z.array(runOnSchema).max(MOST_LINES).optional(),
  /** The direct view in which it is done, on a sphere. */
  view: viewSchema.optional(),
  take: takeSchema,
  /** 0 = looser, 100 = closer to where the new part comes from. */
  closeness: percent.default(50),
};

/** How strongly a rebuilt part takes the tone of its place: 0 = its own, 100 = the place's. */
export const rebuildLight = percent.default(100);

/** Whose light a placed subject takes: 0 = its own, 100 = the place's. */
export const placedLight = percent.default(0);

/** A way in px, to the right and down. */
export const shiftSchema = z.object({ dxPx: coordinate, dyPx: coordinate });

export const NO_SHIFT = { dxPx: 0, dyPx: 0 };

export const placementSchema = z.object({
  ...shiftSchema.shape,
  scale: z.number().min(0.05).max(20).default(1),
  /** Radians, clockwise. */
  turn: z.number().min(-Math.PI).max(Math.PI).default(0),
  mirror: z.enum(['none', 'horizontal', 'vertical']).default('none'),
});

/** The picture as it stands, the original, or what a step before this one left; that as it stands if there is none. */
export const readsSchema = z.union([z.enum(['present', 'original']), z.object({ after: z.string().max(64) })]);

export const shadowStrength = z.number().min(0).max(200).default(100);

/** What Move and Duplicate take. */
export const placingSchema = z.object({
  ...rebuildShape,
  light: placedLight,
  placement: placementSchema,
  /** The subject's shadow travels along, as a ratio of light. */
  withShadow: z.boolean().default(true),
  /** How dark that is, in percent of what it was: an exponent of the ratio. */
  shadowStrength,
  /** The height of the horizon: by it the shadow keeps its direction on level ground; without it, that in the picture. */
  horizonPx: coordinate.optional(),
  /** What stays in front of the subject at its new place. */
  inFront: markSchema.optional(),
  /** Strokes that say what belongs to the subject inside its loose mark, and what does not. */
  belongs: markSchema.optional(),
  belongsNot: markSchema.optional(),
  /** Out of which picture the subject is taken. */
  reads: readsSchema.default('present'),
});

export type Reads = z.infer<typeof readsSchema>;
export type PlaneParams = z.infer<typeof planeSchema>;
export type RunOnParams = z.infer<typeof runOnSchema>;
export type TakeSpec = z.infer<typeof takeSchema>;
export type PlacementParams = z.infer<typeof placementSchema>;
export type PlacingParams = z.infer<typeof placingSchema>;
