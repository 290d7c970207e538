import { resampleImage } from '../core/geometry/resampleImage.ts';
import { scaling } from '../core/geometry/warp.ts';
import { cropImage } from '../core/image/rasterImage.ts';
import { translate, wholeOf } from '../core/image/rect.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { boundsOf, cropMask } from '../core/mask/mask.ts';
import type { Task } from '../core/progress.ts';
import { computationOf, kindOf } from '../operations/kinds.ts';
import { markFromMask } from '../operations/marks/renderMark.ts';
import type { Computation, Memo, Reshape } from '../operations/computation.ts';
import { subjectMatte } from '../operations/rebuild/placeMarked.ts';
import { perform, type Watch } from './perform.ts';
import type { CutOutJob, GlanceJob, Job, JobResult, ReshapeJob } from './protocol.ts';

/**
 * Does a job, loading the computation of its kind of step first. What it returns may share pixels with the memo: copy
 * before transfer. Throws the watch's reason when it is stopped.
 */
export async function performJob<J extends Job>(
  job: J,
  memo: Memo,
  kernels: Kernels,
  watch: Watch = {},
): Promise<JobResult<J>> {
  const computation = job.kind === 'cutOut' ? undefined : await computationOf(job.type);
  return (await perform(taskOf(job, computation, memo, kernels), watch)) as JobResult<J>;
}

function* taskOf(job: Job, computation: Computation | undefined, memo: Memo, kernels: Kernels): Task<JobResult<Job>> {
  if (job.kind === 'cutOut') {
    yield { stage: 'Finding the subject', share: 0 };
    return cutOut(job, memo, kernels);
  }
  if (job.kind === 'reshape') return yield* reshape(job, computation!, kernels);
  if (job.kind === 'glance') return yield* glance(job, computation!, kernels);
  return yield* computation!.apply({ ...job, params: kindOf(job.type).schema.parse(job.params), memo, kernels });
}

function* reshape(
  { type, params, photo, look }: ReshapeJob | GlanceJob,
  { reshapeBy }: Computation,
  kernels: Kernels,
): Task<Reshape> {
  if (!reshapeBy) throw new Error(`"${type}" does not carry the picture over.`);
  return yield* reshapeBy(kindOf(type).schema.parse(params), photo, look, kernels);
}

/** The look itself carried over, at its own scale: for seeing at once what a carrying over gives. */
function* glance(job: GlanceJob, computation: Computation, kernels: Kernels): Task<JobResult<GlanceJob>> {
  const { photo, look } = job;
  const { warps, size } = yield* reshape(job, computation, kernels);
  const small = {
    width: Math.max(1, Math.round((size.width * look.width) / photo.width)),
    height: Math.max(1, Math.round((size.height * look.height) / photo.height)),
  };
  const through = [scaling(look, photo), ...warps, scaling(size, small)];
  return { rect: wholeOf(small), image: yield* resampleImage(look, through, small, kernels) };
}

function cutOut({ subject, photo, region, inputKey }: CutOutJob, memo: Memo, kernels: Kernels): JobResult<CutOutJob> {
  const matte = subjectMatte(subject, photo, region, 0, inputKey, memo, kernels);
  const box = boundsOf(matte);
  const image = cropImage(region.image, box);
  const inBox = cropMask(matte, box);
  for (let i = 0; i < inBox.data.length; i++) image.data[4 * i + 3] = inBox.data[i]!;
  const rect = translate(box, region.rect.x, region.rect.y);
  return { rect, image, mark: markFromMask(inBox, rect) };
}
