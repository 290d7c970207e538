import { z } from 'zod';

/** What is told of a project where all of them are listed; read without the project itself. */
export const summarySchema = z.object({
  id: z.string(),
  name: z.string().min(1).max(120),
  createdAt: z.number(),
  updatedAt: z.number(),
  /** Set while the project waits to be removed for good. */
  deletedAt: z.number().optional(),
  /** Names its original. */
  sourceKey: z.string(),
  width: z.int().min(1),
  height: z.int().min(1),
  isSphere: z.boolean(),
  stepCount: z.int().min(0),
  thumbnail: z.instanceof(Blob).optional(),
});

export type ProjectSummary = z.infer<typeof summarySchema>;

/** Those fields of a project that stand in its summary only. */
export const SUMMARY_ONLY = ['name', 'createdAt', 'updatedAt', 'deletedAt', 'thumbnail'] as const;

/** The summary of a project, or of a record that may be one; to be checked if it may not. */
export function summaryOf(project: Record<string, unknown>): Record<string, unknown> & { id: string } {
  const { id, name, createdAt, updatedAt, deletedAt, thumbnail, source, steps } = project as {
    id: string;
    source?: { key?: unknown; width?: unknown; height?: unknown; sphere?: unknown };
    steps?: unknown[];
  } & Record<string, unknown>;
  return {
    id,
    name,
    createdAt,
    updatedAt,
    ...(deletedAt !== undefined && { deletedAt }),
    ...(thumbnail !== undefined && { thumbnail }),
    sourceKey: source?.key,
    width: source?.width,
    height: source?.height,
    isSphere: source?.sphere !== undefined,
    stepCount: steps?.length,
  };
}
