import type { PayloadAction } from '@reduxjs/toolkit';
import type { DrawnLine } from '../../core/geometry/uprightFrom.ts';
import { wholeOf, type Rect, type Size } from '../../core/image/rect.ts';
import { draftOf, EMPTY_DRAFT, jobOf, offeredIn, type Draft } from '../../operations/draft.ts';
import type { Job } from '../../operations/kind.ts';
import { EMPTY_MARK, type MarkShape } from '../../operations/marks/markSchema.ts';
import type { Project } from '../../storage/projectSchema.ts';
import { changeDraft, dropTakes, remember, type BenchState, type Overlays } from './benchState.ts';

/** Work on the frame instead of on subjects, and what helps there. */
export const frameReducers = {
  /** Between jobs; what is under way in the one waits while the other is done. */
  jobChosen(state: BenchState, { payload: { job, photo } }: PayloadAction<{ job: Job; photo: Size }>) {
    const project = state.project;
    if (!project || jobOf(project.draft) === job) return;
    const waiting = project.asideDraft;
    const fresh = job === 'subjects' ? EMPTY_DRAFT : draftOf(offeredIn(job)[0]!.type, photo);
    const { draft } = project;
    project.draft = waiting && jobOf(waiting) === job && fits(waiting, project) ? waiting : fresh;
    project.asideDraft = draft;
    state.gesture = '';
    state.paintTarget = 'mark';
    Object.assign(state, { lineWanted: false, lines: [], runOnWanted: false, runOnInHand: undefined });
  },
  /** Another kind of change in a job in which nothing is carried from one to the other. */
  wayChosen(state: BenchState, { payload: { type, photo } }: PayloadAction<{ type: string; photo: Size }>) {
    const project = state.project;
    if (!project || project.draft.change?.kind === type) return;
    remember(project);
    project.draft = draftOf(type, photo);
    Object.assign(state, { lineWanted: false, lines: [], paintTarget: 'mark', runOnWanted: false });
  },
  /** New pixels may come from anywhere in the photo but from these places. */
  donorsLeftOut(state: BenchState, { payload: { photo, rects } }: PayloadAction<{ photo: Size; rects: Rect[] }>) {
    changeDraft(state, (draft) => {
      const lasso = (combine: 'startOver' | 'without', rect: Rect): MarkShape => ({
        kind: 'lasso',
        combine,
        points: cornersOf(rect),
      });
      const all = draft.donors?.shapes ?? [lasso('startOver', wholeOf(photo))];
      draft.donors = { ...EMPTY_MARK, shapes: [...all, ...rects.map((rect) => lasso('without', rect))] };
      dropTakes(draft);
    });
  },
  ratioLocked: (state: BenchState, { payload }: PayloadAction<number | undefined>) => void (state.frameRatio = payload),
  overlayChosen(state: BenchState, { payload }: PayloadAction<Partial<Overlays>>) {
    Object.assign(state.overlays, payload);
    state.markShown = true;
  },
  /** All lines drawn so far that should be level or upright. */
  linesDrawn: (state: BenchState, { payload }: PayloadAction<DrawnLine[]>) => void (state.lines = payload),
  lineAsked: (state: BenchState, { payload }: PayloadAction<boolean>) =>
    void Object.assign(state, { lineWanted: payload, lines: [] }),
};

const cornersOf = ({ x, y, width, height }: Rect): number[] => [
  x,
  y,
  x + width,
  y,
  x + width,
  y + height,
  x,
  y + height,
];

/** Whether a draft that waited can still be gone on with: its open step is there, and no other is. */
const fits = (draft: Draft, project: Project): boolean =>
  !draft.editing || project.steps.some(({ id }) => id === draft.editing);
