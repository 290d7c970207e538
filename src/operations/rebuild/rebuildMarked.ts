import { FingoError } from '../../core/errors.ts';
import { fillRegion, planFillRegion, type FillResult } from '../../core/fill/fill.ts';
import { FILL_STRATEGIES, type FillStrategy } from '../../core/fill/strategy.ts';
import type { Rect, Size } from '../../core/image/rect.ts';
import type { Kernels } from '../../core/kernels/kernels.ts';
import type { Task } from '../../core/progress.ts';
import { markFrame, maskUnder, renderMark } from '../marks/renderMark.ts';
import type { Mark } from '../marks/markSchema.ts';
import { translatedPreviews } from './translatedPreviews.ts';
import type { Memo, Patch } from '../operation.ts';
import type { TakeSpec } from './rebuildSchema.ts';

export interface RebuildParams {
  mark: Mark;
  donors?: Mark | undefined;
  take: TakeSpec;
  closeness: number;
  /** 0 to 100. */
  light: number;
}

/** The part of the photo that rebuilding this mark reads and changes. */
export function rebuildRegion(params: Pick<RebuildParams, 'mark' | 'donors'>, photo: Size): Rect {
  const frame = markFrame(params.mark, photo);
  if (frame.width === 0 || frame.height === 0) {
    throw new FingoError('nothing-marked', 'Nothing is marked inside the picture; draw around what should change.');
  }
  const donorFrame = params.donors && markFrame(params.donors, photo);
  if (donorFrame && (donorFrame.width === 0 || donorFrame.height === 0)) {
    throw new FingoError('no-donors', 'The donor area is empty; paint where new pixels may come from.');
  }
  return planFillRegion(frame, photo, donorFrame);
}

/**
 * Rebuilds what is marked out of its region, remembered by all that it depends on. Closeness sets how large the
 * pieces are that are carried over whole: 100 works 1.5 times as coarsely as 50, 0 as much more finely.
 */
export function* rebuildMarked(
  params: RebuildParams,
  photo: Size,
  region: Patch,
  inputKey: string,
  memo: Memo,
  kernels: Kernels,
): Task<FillResult> {
  const { mark, donors, take, closeness, light } = params;
  const key = JSON.stringify(['rebuild', inputKey, region.rect, mark, donors, take, closeness, light]);
  const known = memo.get(key) as FillResult | undefined;
  if (known) return known;
  const result = yield* translatedPreviews(
    fillRegion(
      {
        image: region.image,
        mark: maskUnder(renderMark(mark, photo), region.rect),
        ...(donors && { donors: maskUnder(renderMark(donors, photo), region.rect) }),
        strategy: strategyFor(take.strategy, closeness),
        seed: take.seed,
        light: light / 100,
      },
      kernels,
    ),
    region.rect,
  );
  memo.set(key, result, result.image.data.byteLength);
  return result;
}

export const REBUILD_STRATEGIES: readonly string[] = FILL_STRATEGIES.map((strategy) => strategy.name);

function strategyFor(name: string, closeness: number): FillStrategy {
  const strategy = FILL_STRATEGIES.find((candidate) => candidate.name === name);
  if (!strategy) {
    throw new FingoError(
      'invalid-recipe',
      `"${name}" is not a way of rebuilding; use ${REBUILD_STRATEGIES.join(', ')}.`,
    );
  }
  return { ...strategy, coarseness: strategy.coarseness * 2 ** ((closeness - 50) / 80) };
}
