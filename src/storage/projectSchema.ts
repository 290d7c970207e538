import { z } from 'zod';
import { markSchema } from '../operations/marks/markSchema.ts';
import { draftSchema } from '../operations/draft.ts';
import { viewSchema } from '../operations/sphere/viewSchema.ts';
import { parseStep, type Step } from '../operations/recipe.ts';

const step = z.unknown().transform((value): Step => parseStep(value));

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
export type Snapshot = z.infer<typeof snapshot>;
