import { z } from 'zod';
import { EMPTY_MARK, markSchema } from './marks/markSchema.ts';
import { MOST_LINES, planeSchema, runOnSchema } from './rebuild/rebuildSchema.ts';
import { viewSchema } from './sphere/viewSchema.ts';

/** What all drafts have in common, whatever kind of step they become. */
export const draftBaseSchema = z.object({
  mark: markSchema,
  /** Where new pixels may come from, if painted by hand. */
  donors: markSchema.optional(),
  /** What no rebuild, slack or shadow may enter; stays from one draft to the next. */
  protect: markSchema.optional(),
  /** What stays in front of a placed subject. */
  inFront: markSchema.optional(),
  /** Strokes that say what belongs to the subject and what does not. */
  belongs: markSchema.optional(),
  belongsNot: markSchema.optional(),
  /** The planes to rebuild along, if set by hand. */
  planes: z.array(planeSchema).max(8).optional(),
  /** The lines that run on, if set by hand. */
  runOn: z.array(runOnSchema).max(MOST_LINES).optional(),
  /** The direct view into a sphere that is worked in; all marks are in px of it. */
  view: viewSchema.optional(),
  /** Further areas of the mark that come after this one. */
  waiting: z.array(markSchema).max(60).default([]),
  closeness: z.number().min(0).max(100),
  /** How strongly a rebuilt part takes the tone of its place, in percent. */
  light: z.number().min(0).max(100),
});

export type DraftBase = z.infer<typeof draftBaseSchema>;

export const EMPTY_BASE: DraftBase = { mark: EMPTY_MARK, waiting: [], closeness: 50, light: 100 };

export const isMarked = (draft: DraftBase): boolean => draft.mark.shapes.length > 0;

type HowRebuilt = Pick<DraftBase, 'closeness' | 'donors' | 'protect' | 'planes' | 'runOn' | 'view'>;

/** What kinds that rebuild take from a draft of how it is done; nothing but what is set. */
export const howRebuilt = ({ closeness, donors, protect, planes, runOn, view }: HowRebuilt): HowRebuilt => ({
  closeness,
  ...(donors && { donors }),
  ...(protect && { protect }),
  ...(planes && { planes }),
  ...(runOn && { runOn }),
  ...(view && { view }),
});
