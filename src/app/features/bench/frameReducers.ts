import { nanoid, type PayloadAction } from '@reduxjs/toolkit';
import type { Upright } from '../../../core/geometry/frameGeometry.ts';
import type { DrawnLine } from '../../../core/geometry/uprightFrom.ts';
import { wholeOf, type Rect, type Size } from '../../../core/image/rect.ts';
import { operationOf } from '../../../operations/catalogue.ts';
import type { MarkShape } from '../../../operations/marks/markSchema.ts';
import type { FrameParams } from '../../../operations/reframe/schema.ts';
import type { Draft, Project } from '../../../storage/projectSchema.ts';
import { changeDraft, changeSteps, dropTakes, remember, type BenchState, type Overlays } from './benchState.ts';
import { EMPTY_DRAFT, frameDraft, jobOf, stretchDraft, textDraft, type Job } from './draft.ts';

/** The ways of the Frame job. */
export type FrameWay = 'reframe' | 'stretch' | 'text';

const DRAFTS: Record<FrameWay, (photo: Size) => Draft> = {
  reframe: frameDraft,
  stretch: stretchDraft,
  text: textDraft,
};

/** What changes the frame: another one, a stretched picture, an enlarged one. */
export const frameReducers = {
  /** Between work on subjects and on the frame; what is under way in the one waits while the other is done. */
  jobChosen(state: BenchState, { payload: { job, photo } }: PayloadAction<{ job: Job; photo: Size }>) {
    const project = state.project;
    if (!project || jobOf(project.draft) === job) return;
    const waiting = project.asideDraft;
    const fresh = job === 'frame' ? frameDraft(photo) : EMPTY_DRAFT;
    const { draft } = project;
    project.draft = waiting && jobOf(waiting) === job && fits(waiting, project) ? waiting : fresh;
    project.asideDraft = draft;
    state.gesture = '';
    state.paintTarget = 'mark';
    Object.assign(state, { lineWanted: false, lines: [] });
  },
  /** Room is gained by another frame or by stretching; or text is laid on what room there is. */
  frameWayChosen(state: BenchState, { payload: { way, photo } }: PayloadAction<{ way: FrameWay; photo: Size }>) {
    const project = state.project;
    if (!project || project.draft.what === way) return;
    remember(project);
    project.draft = DRAFTS[way](photo);
    Object.assign(state, { lineWanted: false, lines: [], paintTarget: 'mark' });
  },
  textSet(state: BenchState, { payload }: PayloadAction<Partial<NonNullable<Draft['text']>>>) {
    changeDraft(
      state,
      (draft) => {
        if (draft.text) Object.assign(draft.text, payload);
        dropTakes(draft);
      },
      'text',
    );
  },
  stretchSet(state: BenchState, { payload }: PayloadAction<Partial<NonNullable<Draft['stretch']>>>) {
    changeDraft(
      state,
      (draft) => {
        if (draft.stretch) Object.assign(draft.stretch, payload);
        dropTakes(draft);
      },
      'stretch',
    );
  },
  /** The picture as it stands is enlarged: a step of its own. */
  enlarged(state: BenchState, { payload }: PayloadAction<Size>) {
    changeSteps(state, (project) => {
      const operation = operationOf('enlarge');
      const params = operation.schema.parse({ ...payload, take: { strategy: operation.strategies[0], seed: 1 } });
      project.steps.push({ id: nanoid(), enabled: true, type: 'enlarge', version: operation.version, params });
      project.draft = { ...EMPTY_DRAFT };
      delete project.asideDraft;
    });
  },
  frameSet(state: BenchState, { payload }: PayloadAction<Partial<FrameParams>>) {
    changeDraft(
      state,
      (draft) => {
        if (draft.reframe) Object.assign(draft.reframe.frame, payload);
        dropTakes(draft);
      },
      'frame',
    );
  },
  marginsSet(state: BenchState, { payload }: PayloadAction<Partial<Omit<NonNullable<Draft['reframe']>, 'frame'>>>) {
    changeDraft(
      state,
      (draft) => {
        if (draft.reframe) Object.assign(draft.reframe, payload);
        dropTakes(draft);
      },
      'margins',
    );
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
      draft.donors = { ...EMPTY_DRAFT.mark, shapes: [...all, ...rects.map((rect) => lasso('without', rect))] };
      dropTakes(draft);
    });
  },
  ratioLocked: (state: BenchState, { payload }: PayloadAction<number | undefined>) => void (state.frameRatio = payload),
  overlayChosen(state: BenchState, { payload }: PayloadAction<Partial<Overlays>>) {
    Object.assign(state.overlays, payload);
    state.markShown = true;
  },
  /** One more line that should be level or upright; all of them together set the photo straight. */
  lineDrawn(state: BenchState, { payload }: PayloadAction<{ lines: DrawnLine[]; upright: Upright }>) {
    changeDraft(state, (draft) => {
      if (draft.reframe) Object.assign(draft.reframe.frame, payload.upright);
      dropTakes(draft);
    });
    state.lines = payload.lines;
  },
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
