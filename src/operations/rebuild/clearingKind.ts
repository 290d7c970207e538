import { z } from 'zod';
import { howRebuilt } from '../draftBase.ts';
import { defineKind, type StepKind } from '../kind.ts';
import { clearSchema, type ClearParams } from './clearSchema.ts';
import { rebuildRegion, STRATEGIES_BY_PLANES } from './rebuildRegion.ts';

const ownSchema = z.object({});

interface Words {
  title: string;
  summary: string;
  isOffered: boolean;
}

/** A kind of step that rebuilds what is marked from around it. */
export const clearingKind = <Type extends string>(
  type: Type,
  strategies: readonly string[],
  { title, summary, isOffered }: Words,
): StepKind<Type, ClearParams, z.infer<typeof ownSchema>> =>
  defineKind({
    type,
    version: 1,
    title,
    schema: clearSchema,
    strategies,
    readTogether: STRATEGIES_BY_PLANES,
    summarize: () => summary,
    regions: (params, photo) => [rebuildRegion(params, photo)],
    draft: {
      job: 'subjects',
      isOffered,
      schema: ownSchema,
      begin: () => ({}),
      toParams: (draft) => ({ ...howRebuilt(draft), mark: draft.mark, light: draft.light }),
      toDraft: (params) => ({ common: { ...howRebuilt(params), light: params.light }, own: {} }),
      fromFlat: () => ({}),
      remakesTakes: true,
    },
  });
