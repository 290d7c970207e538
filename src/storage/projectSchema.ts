import { z } from 'zod';
import { markSchema } from '../operations/marks/markSchema.ts';
import {
  placementSchema,
  planeSchema,
  readsSchema,
  shadowStrength,
  takeSchema,
} from '../operations/rebuild/rebuildSchema.ts';
import { reframeSchema } from '../operations/reframe/schema.ts';
import { viewSchema } from '../operations/sphere/viewSchema.ts';
import { textSchema } from '../operations/text/schema.ts';
import { stretchSchema } from '../operations/stretch/schema.ts';
import { parseStep, type Step } from '../operations/recipe.ts';

const step = z.unknown().transform((value): Step => parseStep(value));

/** A proposal as it is remembered; its pixels are in the result store, or are computed again. */
const draftTake = z.object({
  spec: takeSchema,
  rank: z.number(),
  round: z.int().min(0),
  setAside: z.boolean().default(false),
});

/** What is being worked on and not yet used. */
const draftSchema = z.object({
  mark: markSchema,
  what: z
    .enum(['clear', 'move', 'duplicate', 'lengthen', 'borrow', 'strokeClear', 'refine', 'reframe', 'stretch', 'text'])
    .optional(),
  /** Where new pixels may come from, if painted by hand. */
  donors: markSchema.optional(),
  /** What no rebuild, slack or shadow may enter; stays from one draft to the next. */
  protect: markSchema.optional(),
  /** What stays in front of a placed subject. */
  inFront: markSchema.optional(),
  /** Strokes that say what belongs to the subject and what does not. */
  belongs: markSchema.optional(),
  belongsNot: markSchema.optional(),
  /** Whether a duplicate is taken out of the picture as it stands, or of the original. */
  reads: readsSchema.optional(),
  /** The horizon, px from the top, by which sizes follow the ground; absent: they don't. */
  horizonPx: z.number().optional(),
  /** The planes to rebuild along, if set by hand. */
  planes: z.array(planeSchema).max(8).optional(),
  /** The direct view into a sphere that is worked in; all marks are in px of it. */
  view: viewSchema.optional(),
  /** Further areas of the mark that come after this one. */
  waiting: z.array(markSchema).max(60).default([]),
  /** The frame to be, for a draft that changes it. */
  reframe: reframeSchema.pick({ frame: true, sides: true, rimPx: true, passes: true }).optional(),
  /** The size and the part of a draft that stretches the picture. */
  stretch: stretchSchema.pick({ width: true, height: true, part: true }).optional(),
  /** The text of a draft that lays some on the picture. */
  text: textSchema.omit({ take: true }).optional(),
  placement: placementSchema,
  closeness: z.number().min(0).max(100),
  /** Light of a rebuilt place and of a placed subject: each has its own default. */
  rebuiltLight: z.number().min(0).max(100),
  placedLight: z.number().min(0).max(100),
  withShadow: z.boolean(),
  shadowStrength,
  takes: z.array(draftTake).max(60),
  /** Names the parameters that `takes` were made for; others make them out of date. */
  takesFor: z.string(),
  /** Names the picture they were made on; absent for those of a step that was opened, which fit whatever it stands on. */
  takesOn: z.string().optional(),
  chosen: takeSchema.optional(),
  /** The step that is open for change, if it is not a new one. */
  editing: z.string().optional(),
});

const snapshot = z.object({ steps: z.array(step), draft: draftSchema });

export const projectSchema = z.object({
  id: z.string(),
  name: z.string().min(1).max(120),
  createdAt: z.number(),
  updatedAt: z.number(),
  /** Set while the project waits to be removed for good. */
  deletedAt: z.number().optional(),
  source: z.object({
    key: z.string(),
    fileName: z.string(),
    mediaType: z.string(),
    width: z.int().min(1),
    height: z.int().min(1),
    bytes: z.int().min(1),
    /** Where the picture lies on its sphere, if it is one or a part of one; width and height are the sphere's then. */
    sphere: z
      .object({
        full: z.object({ width: z.int().min(2), height: z.int().min(1) }),
        part: z.object({ x: z.int().min(0), y: z.int().min(0), width: z.int().min(1), height: z.int().min(1) }),
      })
      .optional(),
    /** Whether it has yet to be said if the picture, twice as wide as high, is a sphere. */
    asksSphere: z.boolean().optional(),
    /** Why the file's own word on that is not followed, until it has been read. */
    sphereDoubt: z.string().max(500).optional(),
  }),
  steps: z.array(step),
  draft: draftSchema,
  /** What is being worked on in the other job, kept until one comes back to it. */
  asideDraft: draftSchema.optional(),
  /** The mark of the step used last, one key away. */
  lastMark: markSchema.optional(),
  /** The direct view that mark was made in. */
  lastMarkView: viewSchema.optional(),
  /** Marks kept by name. */
  keptMarks: z
    .array(z.object({ name: z.string().min(1).max(60), mark: markSchema, view: viewSchema.optional() }))
    .max(100)
    .default([]),
  past: z.array(snapshot),
  future: z.array(snapshot),
  thumbnail: z.instanceof(Blob).optional(),
});

export type Project = z.infer<typeof projectSchema>;
export type ProjectSource = Project['source'];
export type Draft = z.infer<typeof draftSchema>;
export type DraftTake = z.infer<typeof draftTake>;
export type Snapshot = z.infer<typeof snapshot>;
