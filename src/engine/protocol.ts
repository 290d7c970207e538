import { z } from 'zod';
import type { Progress } from '../core/progress.ts';
import type { StepResult } from '../operations/operation.ts';
import { placingSchema } from '../operations/rebuild/rebuildSchema.ts';

const size = z.object({ width: z.int().min(1), height: z.int().min(1) });

const patch = z
  .object({
    rect: z.object({ x: z.int(), y: z.int(), width: z.int().min(1), height: z.int().min(1) }),
    image: z.object({ width: z.int(), height: z.int(), data: z.instanceof(Uint8ClampedArray<ArrayBuffer>) }),
  })
  .refine(({ rect, image }) => image.width === rect.width && image.height === rect.height, 'A crop has its own size.')
  .refine(({ image }) => image.data.length === image.width * image.height * 4, 'A crop holds four bytes a pixel.');

/** Work for a computing worker. Pixels are handed over, not copied. */
export const jobSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('step'),
    type: z.string(),
    params: z.unknown(),
    photo: size,
    before: size.optional(),
    regions: z.array(patch).min(1).max(4),
    inputKey: z.string(),
    /** Whether the job may use all processors, because no other runs beside it. */
    alone: z.boolean(),
  }),
  z.object({
    kind: z.literal('cutOut'),
    subject: placingSchema.pick({ mark: true, belongs: true, belongsNot: true }),
    photo: size,
    region: patch,
    inputKey: z.string(),
  }),
]);

export type Job = z.infer<typeof jobSchema>;
export type StepJob = Extract<Job, { kind: 'step' }>;
export type CutOutJob = Extract<Job, { kind: 'cutOut' }>;

/** What each kind of job gives: a step's pixels, or the subject as a patch whose alpha is its matte. */
export type JobResult<J extends Job> = J extends StepJob ? StepResult : StepResult['patches'][number];

export type OnProgress = (progress: Progress) => void;

/** Where jobs are done: in workers, or in this very thread. Rejects with an AbortError when `signal` aborts. */
export interface Runner {
  /** Jobs of one `lane` go to the same worker, which remembers what it computed for them. */
  run<J extends Job>(job: J, lane: number, signal: AbortSignal, onProgress?: OnProgress): Promise<JobResult<J>>;
  /** How many jobs really run side by side. */
  readonly width: number;
}

/** The buffers of a job's or a result's pixels, to be transferred. */
export function buffersOf(value: Job | StepResult | StepResult['patches'][number]): ArrayBuffer[] {
  const patches = 'patches' in value ? value.patches : 'image' in value ? [value] : patchesOf(value);
  return [...new Set(patches.map((p) => p.image.data.buffer))];
}

const patchesOf = (job: Job): StepResult['patches'] => (job.kind === 'step' ? job.regions : [job.region]);
