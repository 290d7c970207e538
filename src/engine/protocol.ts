import { z } from 'zod';
import type { RasterImage } from '../core/image/rasterImage.ts';
import type { Progress } from '../core/progress.ts';
import type { Mark } from '../operations/marks/markSchema.ts';
import type { Patch, Reshape, StepResult } from '../operations/computation.ts';
import { placingSchema } from '../operations/rebuild/rebuildSchema.ts';

const size = z.object({ width: z.int().min(1), height: z.int().min(1) });

const image = z.object({
  width: z.int(),
  height: z.int(),
  // Told by name: what comes out of a database may be of another realm's class.
  data: z.custom<Uint8ClampedArray<ArrayBuffer>>(
    (value) => Object.prototype.toString.call(value) === '[object Uint8ClampedArray]',
  ),
});

/** Pixels of a rectangle, as large as it. */
export const patchSchema = z
  .object({
    rect: z.object({ x: z.int(), y: z.int(), width: z.int().min(1), height: z.int().min(1) }),
    image,
    over: z.number().min(0).max(1).optional(),
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
    regions: z.array(patchSchema).max(4),
    inputKey: z.string(),
    /** Whether the job may use all processors, because no other runs beside it. */
    alone: z.boolean(),
  }),
  z.object({
    kind: z.literal('reshape'),
    type: z.string(),
    params: z.unknown(),
    photo: size,
    look: image,
  }),
  z.object({
    kind: z.literal('glance'),
    type: z.string(),
    params: z.unknown(),
    photo: size,
    look: image,
  }),
  z.object({
    kind: z.literal('cutOut'),
    subject: placingSchema.pick({ mark: true, belongs: true, belongsNot: true }),
    photo: size,
    region: patchSchema,
    inputKey: z.string(),
  }),
]);

export type Job = z.infer<typeof jobSchema>;
export type StepJob = Extract<Job, { kind: 'step' }>;
export type ReshapeJob = Extract<Job, { kind: 'reshape' }>;
export type GlanceJob = Extract<Job, { kind: 'glance' }>;
export type CutOutJob = Extract<Job, { kind: 'cutOut' }>;

/** A subject with its matte as alpha, and that matte as a mark. */
export interface CutOut extends Patch {
  mark: Mark;
}

/** What each kind of job gives: a step's pixels, how it carries the picture over, the look carried over that way, a subject. */
export type JobResult<J extends Job> = J extends StepJob
  ? StepResult
  : J extends ReshapeJob
    ? Reshape
    : J extends CutOutJob
      ? CutOut
      : Patch;

export type OnProgress = (progress: Progress) => void;

/** Where jobs are done: in workers, or in this very thread. Rejects with an AbortError when `signal` aborts. */
export interface Runner {
  /** Jobs of one `lane` go to the same worker, which remembers what it computed for them. */
  run<J extends Job>(job: J, lane: number, signal: AbortSignal, onProgress?: OnProgress): Promise<JobResult<J>>;
  /** How many jobs really run side by side. */
  readonly width: number;
}

/** The buffers of a job's or a result's pixels, to be transferred. */
export function buffersOf(value: Job | JobResult<Job>): ArrayBuffer[] {
  return [...new Set(imagesOf(value).map(({ data }) => data.buffer))];
}

function imagesOf(value: Job | JobResult<Job>): RasterImage[] {
  if ('look' in value) return [value.look];
  if ('warps' in value) return [];
  if ('patches' in value) return value.patches.map((each) => each.image);
  if ('image' in value) return [value.image];
  return (value.kind === 'step' ? value.regions : [value.region]).map((each) => each.image);
}
