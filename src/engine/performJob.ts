import { cropImage } from '../core/image/rasterImage.ts';
import { translate } from '../core/image/rect.ts';
import type { Kernels } from '../core/kernels/kernels.ts';
import { boundsOf, cropMask } from '../core/mask/mask.ts';
import type { Task } from '../core/progress.ts';
import { operationOf } from '../operations/catalogue.ts';
import type { Memo } from '../operations/operation.ts';
import { subjectMatte } from '../operations/rebuild/placeMarked.ts';
import type { CutOutJob, Job, JobResult } from './protocol.ts';

/** Does a job, as a task that reports progress. What it returns may share pixels with the memo: copy before transfer. */
export function performJob<J extends Job>(job: J, memo: Memo, kernels: Kernels): Task<JobResult<J>>;
export function* performJob(job: Job, memo: Memo, kernels: Kernels): Task<JobResult<Job>> {
  if (job.kind === 'cutOut') {
    yield { stage: 'Finding the subject', share: 0 };
    return cutOut(job, memo, kernels);
  }
  const operation = operationOf(job.type);
  if (job.kind === 'reshape') {
    if (!operation.reshapeBy) throw new Error(`"${job.type}" does not carry the picture over.`);
    return yield* operation.reshapeBy(operation.schema.parse(job.params), job.photo, job.look, kernels);
  }
  return yield* operation.apply({ ...job, params: operation.schema.parse(job.params), memo, kernels });
}

function cutOut({ subject, photo, region, inputKey }: CutOutJob, memo: Memo, kernels: Kernels): JobResult<CutOutJob> {
  const matte = subjectMatte(subject, photo, region, 0, inputKey, memo, kernels);
  const box = boundsOf(matte);
  const image = cropImage(region.image, box);
  const alpha = cropMask(matte, box).data;
  for (let i = 0; i < alpha.length; i++) image.data[4 * i + 3] = alpha[i]!;
  return { rect: translate(box, region.rect.x, region.rect.y), image };
}
