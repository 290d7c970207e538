import { createSlice, nanoid, type PayloadAction } from '@reduxjs/toolkit';
import type { Combine } from '../../core/mask/combine.ts';
import type { Size } from '../../core/image/rect.ts';
import type { FailedStep } from '../../engine/workshop.ts';
import {
  areFresh,
  draftOfStep,
  EMPTY_DRAFT,
  fingerprint,
  jobOf,
  kindOfDraft,
  nextDraft,
  paramsOf,
  withKind,
  type Draft,
  type DraftTake,
} from '../../operations/draft.ts';
import { isMarked, type DraftBase } from '../../operations/draftBase.ts';
import type { KnownReshapes } from '../../operations/followSteps.ts';
import { kindOf } from '../../operations/kinds.ts';
import { EMPTY_MARK, type Mark, type MarkShape } from '../../operations/marks/markSchema.ts';
import type { PlaneParams, TakeSpec } from '../../operations/rebuild/rebuildSchema.ts';
import { stepOf, type Step } from '../../operations/recipe.ts';
import type { Project } from '../../storage/projectSchema.ts';
import {
  changeDraft,
  changeSteps,
  dropTakes,
  initialState,
  largestBrushRadius,
  remember,
  rememberMark,
  snapshotOf,
  type BenchState,
  type MarkTool,
  type PaintTarget,
  type Work,
} from './benchState.ts';
import { followChange } from './followChange.ts';
import { frameReducers } from './frameReducers.ts';
import { runOnReducers } from './runOnReducers.ts';
import { sphereReducers } from './sphereReducers.ts';

const sameTake = (a: TakeSpec | undefined, b: TakeSpec | undefined): boolean =>
  a?.strategy === b?.strategy && a?.seed === b?.seed;

/** The state of the Bench: one project, its draft, and how they are looked at. Pixels are elsewhere (the desk). */
export const benchSlice = createSlice({
  name: 'bench',
  initialState,
  reducers: {
    projectOpened: (state, { payload }: PayloadAction<Project>) => ({
      ...initialState,
      tool: state.tool,
      brushHardness: state.brushHardness,
      brushRadiusPx: Math.max(1, Math.round(Math.max(payload.source.width, payload.source.height) / 60)),
      project: payload,
    }),
    projectClosed: () => initialState,
    projectRenamed(state, { payload }: PayloadAction<string>) {
      const name = payload.trim().slice(0, 120);
      if (state.project && name) state.project.name = name;
    },
    thumbnailMade(state, { payload }: PayloadAction<Blob>) {
      if (state.project) state.project.thumbnail = payload;
    },

    toolChosen(state, { payload }: PayloadAction<MarkTool>) {
      state.tool = payload;
      state.runOnWanted = false;
    },
    combineChosen: (state, { payload }: PayloadAction<Combine>) => void (state.combine = payload),
    brushResized(state, { payload }: PayloadAction<number>) {
      const largest = state.project ? largestBrushRadius(state.project.source) : Infinity;
      state.brushRadiusPx = Math.max(1, Math.min(largest, Math.round(payload)));
    },
    brushHardened: (state, { payload }: PayloadAction<number>) => void (state.brushHardness = payload),
    brushIntensified: (state, { payload }: PayloadAction<number>) => void (state.brushIntensity = payload),
    reachSet(state, { payload }: PayloadAction<{ tolerance?: number; connected?: boolean }>) {
      state.reachTolerance = payload.tolerance ?? state.reachTolerance;
      state.reachConnected = payload.connected ?? state.reachConnected;
    },
    splitToggled: (state) => void (state.split = !state.split),
    panelsToggled: (state) => void (state.panelsFolded = !state.panelsFolded),
    markShownToggled: (state) => void (state.markShown = !state.markShown),

    ...frameReducers,
    ...sphereReducers,
    ...runOnReducers,

    shapeDrawn(state, { payload }: PayloadAction<MarkShape>) {
      const { paintTarget } = state;
      if (paintTarget !== 'mark') {
        changeDraft(state, (draft) => void (draft[paintTarget] = withShape(draft[paintTarget] ?? EMPTY_MARK, payload)));
        return;
      }
      changeDraft(state, (draft) => {
        draft.mark = withShape(draft.mark, payload);
        dropTakes(draft);
      });
    },
    paintTargetChosen: (state, { payload }: PayloadAction<PaintTarget>) => void (state.paintTarget = payload),
    planesShownToggled: (state) => void (state.planesShown = !state.planesShown),
    donorsShownToggled: (state) => void (state.donorsShown = !state.donorsShown),
    /** What was painted beside the mark is dropped. */
    paintingDropped(state, { payload }: PayloadAction<Exclude<PaintTarget, 'mark'>>) {
      state.paintTarget = 'mark';
      changeDraft(state, (draft) => void delete draft[payload]);
    },
    /** A shadow joins the mark: it goes along, but is no part of the subject. */
    shadowAdded: (state, { payload }: PayloadAction<Mark>) => addToMark(state, payload, 'belongsNot'),
    /** A reflection joins the mark and belongs to the subject: it is placed with it, upside down as it is. */
    reflectionAdded: (state, { payload }: PayloadAction<Mark>) => addToMark(state, payload, 'belongs'),
    markKept(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      const name = payload.trim().slice(0, 60);
      if (!project || !name || !isMarked(project.draft)) return;
      project.keptMarks = project.keptMarks.filter((kept) => kept.name !== name);
      const { mark, view } = project.draft;
      project.keptMarks.push({ name, mark, ...(view && { view }) });
    },
    keptMarkForgotten(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      if (project) project.keptMarks = project.keptMarks.filter(({ name }) => name !== payload);
    },
    keptMarkBroughtBack(state, { payload }: PayloadAction<string>) {
      const kept = state.project?.keptMarks.find(({ name }) => name === payload);
      if (kept) bringBack(state, kept.mark, kept.view);
    },
    /** Settings of the kind that the draft is to become; all changes of one unbroken gesture are one undo entry. */
    changeSet(state, { payload }: PayloadAction<{ change: object; gesture: string; mark?: Mark }>) {
      changeDraft(
        state,
        (draft) => {
          if (!draft.change) return;
          Object.assign(draft.change, payload.change);
          if (!kindOfDraft(draft)!.draft.remakesTakes) dropTakes(draft);
        },
        payload.gesture,
      );
    },
    /** A step that comes about by itself: no draft leads to it. */
    stepAdded(
      state,
      {
        payload: { type, params, take, leavesDraft },
      }: PayloadAction<{ type: string; params: object; take?: TakeSpec; leavesDraft?: boolean }>,
    ) {
      changeSteps(state, (project) => {
        project.steps.push(stepOf(nanoid(), type, params, take));
        if (leavesDraft) return;
        project.draft = { ...EMPTY_DRAFT };
        delete project.asideDraft;
      });
    },
    /** The chosen take is used, and a part of it is to be made anew. */
    partAsked(state, { payload: { type, photo } }: PayloadAction<{ type: string; photo: Size }>) {
      const project = state.project;
      if (!project) return;
      const { draft } = project;
      // An area that waits for its turn waits on.
      if (isMarked(draft)) Object.assign(draft, { waiting: [draft.mark, ...draft.waiting], mark: EMPTY_MARK });
      project.draft = withKind(draft, type, photo);
      state.tool = 'brush';
      state.paintTarget = 'mark';
    },
    /** The planes set by hand; without any, those that are found. */
    planesSet(state, { payload }: PayloadAction<PlaneParams[] | undefined>) {
      changeDraft(
        state,
        (draft) => {
          if (payload) draft.planes = payload;
          else delete draft.planes;
        },
        'planes',
      );
    },
    /** The mark's areas are worked on one after the other, the first of them now. */
    areasParted(state, { payload: [first, ...waiting] }: PayloadAction<Mark[]>) {
      if (!first || waiting.length === 0) return;
      changeDraft(state, (draft) => {
        draft.mark = first;
        draft.waiting = waiting;
        dropTakes(draft);
      });
    },
    areasJoined(state) {
      changeDraft(state, (draft) => {
        const also = draft.waiting.flatMap(({ shapes }) =>
          shapes.map((shape) => ({ ...shape, combine: 'also' as const })),
        );
        draft.mark.shapes.push(...also);
        draft.waiting = [];
        dropTakes(draft);
      });
    },
    markAdjusted(
      state,
      { payload }: PayloadAction<Partial<Pick<Mark, 'growPx' | 'smoothPx' | 'featherPx' | 'bandPx' | 'inverted'>>>,
    ) {
      changeDraft(
        state,
        (draft) => {
          Object.assign(draft.mark, payload);
          dropTakes(draft);
        },
        'adjust mark',
      );
    },
    markDropped(state) {
      state.runOnWanted = false;
      changeDraft(state, (draft) => {
        draft.mark = EMPTY_MARK;
        draft.waiting = [];
        delete draft.planes;
        delete draft.runOn;
        delete draft.belongs;
        delete draft.belongsNot;
        delete draft.inFront;
        Object.assign(draft, { change: nextDraft(draft).change });
        dropTakes(draft);
      });
    },
    lastMarkBroughtBack(state) {
      const { lastMark, lastMarkView } = state.project ?? {};
      if (lastMark) bringBack(state, lastMark, lastMarkView);
    },
    kindChosen(state, { payload: { type, photo } }: PayloadAction<{ type: string; photo: Size }>) {
      const { project } = state;
      if (!project || project.draft.change?.kind === type) return;
      changeDraft(state, (draft) => {
        Object.assign(draft, withKind(draft, type, photo));
        const isForPlacing = state.paintTarget !== 'protect' && state.paintTarget !== 'donors';
        if (!kindOf(type).draft.cutsOut && isForPlacing) state.paintTarget = 'mark';
        dropTakes(draft);
      });
    },
    /** How it is rebuilt, whatever is rebuilt. */
    rebuildSet(state, { payload }: PayloadAction<Partial<Pick<DraftBase, 'closeness' | 'light'>>>) {
      changeDraft(state, (draft) => void Object.assign(draft, payload), 'rebuild');
    },

    gestureEnded: (state) => void (state.gesture = ''),

    /** A round begins on the picture of this name; takes of other parameters are gone, those of earlier rounds stay. */
    roundStarted(state, { payload: on }: PayloadAction<string>) {
      const draft = state.project?.draft;
      if (!draft) return;
      if (!areFresh(draft, on)) {
        draft.takes = [];
        delete draft.chosen;
      }
      draft.takesFor = fingerprint(draft);
      draft.takesOn = on;
    },
    /** Takes that were known are there again, made on the picture of this name. */
    takesRestored(state, { payload: on }: PayloadAction<string>) {
      const draft = state.project?.draft;
      if (draft) draft.takesOn = on;
    },
    takesChanged(state, { payload }: PayloadAction<{ takes: DraftTake[]; chosen: TakeSpec | undefined }>) {
      const draft = state.project?.draft;
      if (!draft) return;
      draft.takes = payload.takes;
      if (payload.chosen) draft.chosen = payload.chosen;
      else delete draft.chosen;
    },
    takeChosen(state, { payload }: PayloadAction<TakeSpec>) {
      if (state.project) state.project.draft.chosen = payload;
    },
    takeSetAside(state, { payload }: PayloadAction<TakeSpec>) {
      changeDraft(state, (draft) => {
        for (const take of draft.takes) if (sameTake(take.spec, payload)) take.setAside = !take.setAside;
        if (sameTake(draft.chosen, payload)) {
          const next = draft.takes.find((take) => !take.setAside);
          if (next) draft.chosen = next.spec;
          else delete draft.chosen;
        }
      });
    },
    /** The chosen take becomes a step, or the new form of the step that was open. */
    takeUsed(state, { payload: known }: PayloadAction<KnownReshapes | undefined>) {
      const project = state.project;
      if (!project?.draft.change || !project.draft.chosen) return;
      remember(project);
      const { change, editing } = project.draft;
      const content = { type: change.kind, version: kindOf(change.kind).version, params: paramsOf(project.draft) };
      const open = editing ? project.steps.find((step) => step.id === editing) : undefined;
      const before = open ? asItWas(open) : { id: nanoid(), enabled: false, ...content };
      const step = open ?? { ...before, enabled: true };
      if (open) Object.assign(open, content);
      else project.steps.push(step);
      rememberMark(project);
      const used = project.draft;
      const [next, ...waiting] = used.waiting;
      project.draft = nextDraft(used);
      if (jobOf(used) === 'frame') {
        project.draft = project.asideDraft ?? { ...EMPTY_DRAFT };
        delete project.asideDraft;
      } else if (next) Object.assign(project.draft, { mark: next, waiting });
      followChange(state, step, before, known);
      state.markShown = true;
      state.paintTarget = 'mark';
      Object.assign(state, { runOnWanted: false, runOnInHand: undefined });
    },
    draftLeft(state) {
      const project = state.project;
      if (!project) return;
      remember(project);
      if (!project.draft.editing) rememberMark(project);
      project.draft = nextDraft(project.draft);
    },

    stepOpened(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      const step = project?.steps.find((candidate) => candidate.id === payload);
      if (!project || !step) return;
      remember(project);
      // What is seen by looking around is turned at once; there is nothing to prepare.
      if (kindOf(step.type).draft.job === 'around') {
        state.adjusted = payload;
        project.draft = nextDraft(project.draft);
      } else project.draft = draftOfStep(step);
    },
    stepSwitched(state, { payload: { id, known } }: PayloadAction<{ id: string; known?: KnownReshapes }>) {
      changeSteps(state, (project) => {
        const step = project.steps.find((candidate) => candidate.id === id);
        if (!step) return;
        const before = asItWas(step);
        step.enabled = !step.enabled;
        followChange(state, step, before, known);
      });
    },
    stepRemoved(state, { payload: { id, known } }: PayloadAction<{ id: string; known?: KnownReshapes }>) {
      changeSteps(state, (project) => {
        const gone = project.steps.find((step) => step.id === id);
        if (gone) followChange(state, { ...gone, enabled: false }, asItWas(gone), known);
        project.steps = project.steps.filter((step) => step.id !== id);
        if (project.draft.editing === id) project.draft = nextDraft(project.draft);
        if (state.adjusted === id) delete state.adjusted;
      });
    },

    undone(state) {
      const project = state.project;
      const before = project?.past.pop();
      if (!project || !before) return;
      state.gesture = '';
      project.future.push(snapshotOf(project));
      Object.assign(project, before);
    },
    redone(state) {
      const project = state.project;
      const after = project?.future.pop();
      if (!project || !after) return;
      project.past.push(snapshotOf(project));
      Object.assign(project, after);
    },

    workReported: (state, { payload }: PayloadAction<Work>) => void (state.work = payload),
    workEnded: (state) => void (state.work = initialState.work),
    recomputingStep: (state, { payload }: PayloadAction<number>) => void (state.recomputing = payload),
    stepFailed: (state, { payload }: PayloadAction<FailedStep | undefined>) => void (state.failed = payload),
    noticeRead: (state) => void (state.notice = ''),
    troubleTold: (state, { payload }: PayloadAction<string>) => void (state.trouble = payload),
  },
});

/** What was found joins the mark, and is said to be part of the subject or not. */
function addToMark(state: BenchState, found: Mark, as: 'belongs' | 'belongsNot'): void {
  changeDraft(state, (draft) => {
    const is = as === 'belongs' ? 'subject' : 'shadow';
    const shapes = found.shapes.map((shape): MarkShape => ({
      ...shape,
      ...(shape.kind === 'raster' && { found: is }),
      combine: 'also',
    }));
    draft.mark.shapes.push(...shapes);
    const said = draft[as] ?? EMPTY_MARK;
    draft[as] = { ...said, shapes: [...said.shapes, ...shapes] };
    dropTakes(draft);
  });
}

/** A mark becomes the draft's again, in the view it was made in. */
function bringBack(state: BenchState, mark: Mark, view: Draft['view']): void {
  changeDraft(state, (draft) => {
    draft.mark = mark;
    if (view) draft.view = view;
    else delete draft.view;
    dropTakes(draft);
  });
}

/** A mark with one more shape; taking away from nothing leaves nothing. */
function withShape(mark: Mark, shape: MarkShape): Mark {
  const isEmpty = mark.shapes.length === 0;
  if (isEmpty && shape.combine === 'without') return mark;
  const startsOver = isEmpty || shape.combine === 'startOver';
  return { ...mark, shapes: startsOver ? [{ ...shape, combine: 'startOver' }] : [...mark.shapes, shape] };
}

/** A step as it was, apart from the state that is being changed. */
const asItWas = (step: Step): Step => ({ ...step, params: step.params });

export const benchActions = benchSlice.actions;

/** What the photo and the hand on it depend on; progress, which comes often, is not among it. */
export function selectPhotoState({ bench }: { bench: BenchState }) {
  const { project, tool, combine, brushRadiusPx, brushHardness, brushIntensity, split, markShown } = bench;
  const { paintTarget, planesShown, donorsShown, reachTolerance, reachConnected } = bench;
  const { runOnShown, runOnWanted, runOnInHand } = bench;
  const { frameRatio, overlays, lineWanted, lines } = bench;
  return {
    draft: project!.draft,
    brushIntensity,
    reachTolerance,
    reachConnected,
    tool,
    combine,
    brushRadiusPx,
    brushHardness,
    split,
    markShown,
    paintTarget,
    planesShown,
    donorsShown,
    runOnShown,
    runOnWanted,
    runOnInHand,
    frameRatio,
    overlays,
    lineWanted,
    lines,
  };
}

export type PhotoState = ReturnType<typeof selectPhotoState>;
