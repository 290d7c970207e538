import { createSlice, current, nanoid, type PayloadAction } from '@reduxjs/toolkit';
import type { MarkShape, Mark } from '../../../operations/marks/markSchema.ts';
import type { Combine } from '../../../core/mask/combine.ts';
import { operationOf } from '../../../operations/catalogue.ts';
import type { Upright } from '../../../core/geometry/frameGeometry.ts';
import type { DrawnLine } from '../../../core/geometry/uprightFrom.ts';
import { wholeOf, type Rect, type Size } from '../../../core/image/rect.ts';
import type { Step } from '../../../operations/recipe.ts';
import type { FrameParams } from '../../../operations/reframe/schema.ts';
import { frameOrigin, shiftMarks, shiftStep } from '../../../operations/shiftStep.ts';
import type { PlaneParams, TakeSpec } from '../../../operations/rebuild/rebuildSchema.ts';
import type { Draft, DraftTake, Project, Snapshot } from '../../../storage/projectSchema.ts';
import {
  draftOfStep,
  EMPTY_DRAFT,
  fingerprint,
  frameDraft,
  stretchDraft,
  isMarked,
  isPlacing,
  jobOf,
  OFFERED,
  paramsOf,
  type Job,
  type What,
} from './draft.ts';

const MOST_UNDO = 40;

export type MarkTool = 'lasso' | 'corners' | 'box' | 'ellipse' | 'brush' | 'reach' | 'subject' | 'strokeClear';

/** What the hand on the photo paints. */
export type PaintTarget = 'mark' | 'donors' | 'protect' | 'inFront' | 'belongs' | 'belongsNot';

/** What helps to compose, over the frame. */
export interface Overlays {
  lines: 'none' | 'thirds' | 'golden' | 'diagonals' | 'centre';
  /** Width of the margin that a print may lose, as a share of the shorter side. */
  safeShare: number;
  /** Whether it is told where the eye goes. */
  gaze: boolean;
}

export interface Work {
  /** What is being computed, in words; empty when nothing is. */
  stage: string;
  share: number;
}

export interface BenchState {
  project: Project | undefined;
  tool: MarkTool;
  combine: Combine;
  brushRadiusPx: number;
  brushHardness: number;
  brushIntensity: number;
  /** How far a colour may be from the touched one, and whether it must hang together with it. */
  reachTolerance: number;
  reachConnected: boolean;
  work: Work;
  /** Index of the step that is being computed again, or -1. */
  recomputing: number;
  /** One sentence about what went wrong last. */
  trouble: string;
  split: boolean;
  panelsFolded: boolean;
  markShown: boolean;
  paintTarget: PaintTarget;
  /** Whether planes with their corners, and where new pixels came from, are drawn on the photo. */
  planesShown: boolean;
  donorsShown: boolean;
  /** The ratio that the frame keeps while it is dragged, if any. */
  frameRatio: number | undefined;
  overlays: Overlays;
  /** Whether the hand draws a line that should be level or upright. */
  lineWanted: boolean;
  /** The lines drawn so far, in px of the photo. */
  lines: DrawnLine[];
  /** The gesture whose further changes belong to the undo entry already made. */
  gesture: string;
}

const initialState: BenchState = {
  project: undefined,
  tool: 'lasso',
  combine: 'also',
  brushRadiusPx: 40,
  brushHardness: 0.8,
  brushIntensity: 1,
  reachTolerance: 24,
  reachConnected: true,
  work: { stage: '', share: 0 },
  recomputing: -1,
  trouble: '',
  split: false,
  panelsFolded: false,
  markShown: true,
  paintTarget: 'mark',
  planesShown: false,
  donorsShown: false,
  frameRatio: undefined,
  overlays: { lines: 'none', safeShare: 0, gaze: false },
  lineWanted: false,
  lines: [],
  gesture: '',
};

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

    toolChosen: (state, { payload }: PayloadAction<MarkTool>) => void (state.tool = payload),
    combineChosen: (state, { payload }: PayloadAction<Combine>) => void (state.combine = payload),
    brushResized(state, { payload }: PayloadAction<number>) {
      state.brushRadiusPx = Math.max(1, Math.min(2000, Math.round(payload)));
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

    shapeDrawn(state, { payload }: PayloadAction<MarkShape>) {
      const { paintTarget } = state;
      if (paintTarget !== 'mark') {
        changeDraft(
          state,
          (draft) => void (draft[paintTarget] = withShape(draft[paintTarget] ?? EMPTY_DRAFT.mark, payload)),
        );
        return;
      }
      changeDraft(state, (draft) => {
        draft.mark = withShape(draft.mark, payload);
        dropTakes(draft);
      });
    },
    paintTargetChosen: (state, { payload }: PayloadAction<PaintTarget>) => void (state.paintTarget = payload),
    /** Between work on subjects and on the frame; what is under way in the one waits while the other is done. */
    jobChosen(state, { payload: { job, photo } }: PayloadAction<{ job: Job; photo: Size }>) {
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
    /** Room is gained by another frame, or by stretching. */
    frameWayChosen(state, { payload: { way, photo } }: PayloadAction<{ way: 'reframe' | 'stretch'; photo: Size }>) {
      const project = state.project;
      if (!project || project.draft.what === way) return;
      remember(project);
      project.draft = way === 'stretch' ? stretchDraft(photo) : frameDraft(photo);
      Object.assign(state, { lineWanted: false, lines: [], paintTarget: 'mark' });
    },
    stretchSet(state, { payload }: PayloadAction<Partial<NonNullable<Draft['stretch']>>>) {
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
    enlarged(state, { payload }: PayloadAction<Size>) {
      changeSteps(state, (project) => {
        const operation = operationOf('enlarge');
        const params = operation.schema.parse({ ...payload, take: { strategy: operation.strategies[0], seed: 1 } });
        project.steps.push({ id: nanoid(), enabled: true, type: 'enlarge', version: operation.version, params });
        project.draft = { ...EMPTY_DRAFT };
        delete project.asideDraft;
      });
    },
    frameSet(state, { payload }: PayloadAction<Partial<FrameParams>>) {
      changeDraft(
        state,
        (draft) => {
          if (draft.reframe) Object.assign(draft.reframe.frame, payload);
          dropTakes(draft);
        },
        'frame',
      );
    },
    marginsSet(state, { payload }: PayloadAction<Partial<Omit<NonNullable<Draft['reframe']>, 'frame'>>>) {
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
    donorsLeftOut(state, { payload: { photo, rects } }: PayloadAction<{ photo: Size; rects: Rect[] }>) {
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
    ratioLocked: (state, { payload }: PayloadAction<number | undefined>) => void (state.frameRatio = payload),
    overlayChosen(state, { payload }: PayloadAction<Partial<Overlays>>) {
      Object.assign(state.overlays, payload);
      state.markShown = true;
    },
    /** One more line that should be level or upright; all of them together set the photo straight. */
    lineDrawn(state, { payload }: PayloadAction<{ lines: DrawnLine[]; upright: Upright }>) {
      changeDraft(state, (draft) => {
        if (draft.reframe) Object.assign(draft.reframe.frame, payload.upright);
        dropTakes(draft);
      });
      state.lines = payload.lines;
    },
    lineAsked: (state, { payload }: PayloadAction<boolean>) =>
      void Object.assign(state, { lineWanted: payload, lines: [] }),
    planesShownToggled: (state) => void (state.planesShown = !state.planesShown),
    donorsShownToggled: (state) => void (state.donorsShown = !state.donorsShown),
    /** What was painted beside the mark is dropped. */
    paintingDropped(state, { payload }: PayloadAction<Exclude<PaintTarget, 'mark'>>) {
      state.paintTarget = 'mark';
      changeDraft(state, (draft) => void delete draft[payload]);
    },
    /** A shadow joins the mark: it goes along, but is no part of the subject. */
    shadowAdded(state, { payload }: PayloadAction<Mark>) {
      changeDraft(state, (draft) => {
        const shapes = payload.shapes.map((shape) => ({ ...shape, combine: 'also' as const }));
        draft.mark.shapes.push(...shapes);
        draft.belongsNot = { ...(draft.belongsNot ?? EMPTY_DRAFT.mark) };
        draft.belongsNot.shapes = [...draft.belongsNot.shapes, ...shapes];
        dropTakes(draft);
      });
    },
    markKept(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      const name = payload.trim().slice(0, 60);
      if (!project || !name || !isMarked(project.draft)) return;
      project.keptMarks = project.keptMarks.filter((kept) => kept.name !== name);
      project.keptMarks.push({ name, mark: project.draft.mark });
    },
    keptMarkForgotten(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      if (project) project.keptMarks = project.keptMarks.filter(({ name }) => name !== payload);
    },
    keptMarkBroughtBack(state, { payload }: PayloadAction<string>) {
      const kept = state.project?.keptMarks.find(({ name }) => name === payload);
      if (!kept) return;
      changeDraft(state, (draft) => {
        draft.mark = kept.mark;
        dropTakes(draft);
      });
    },
    readsChosen(state, { payload }: PayloadAction<'present' | 'original'>) {
      changeDraft(state, (draft) => void (draft.reads = payload));
    },
    /** Sizes follow the ground by this horizon, or no longer. */
    horizonSet(state, { payload }: PayloadAction<number | undefined>) {
      changeDraft(
        state,
        (draft) => {
          if (payload === undefined) delete draft.horizonPx;
          else draft.horizonPx = payload;
        },
        'horizon',
      );
    },
    /** A stroke that is cleared at once: a step of its own, with the take that comes next at this place. */
    strokeCleared(state, { payload }: PayloadAction<{ mark: Mark; take: TakeSpec }>) {
      const project = state.project;
      if (!project) return;
      remember(project);
      const operation = operationOf('strokeClear');
      const { closeness, rebuiltLight, protect, donors } = project.draft;
      const params = {
        ...payload,
        closeness,
        light: rebuiltLight,
        ...(protect && { protect }),
        ...(donors && { donors }),
      };
      project.steps.push({
        id: nanoid(),
        enabled: true,
        type: 'strokeClear',
        version: operation.version,
        params: operation.schema.parse(params),
      });
    },
    /** The chosen take is used, and a part of it is to be made anew. */
    refiningStarted(state) {
      const project = state.project;
      if (!project) return;
      const { draft } = project;
      // An area that waits for its turn waits on.
      if (isMarked(draft)) Object.assign(draft, { waiting: [draft.mark, ...draft.waiting], mark: EMPTY_DRAFT.mark });
      draft.what = 'refine';
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
      changeDraft(state, (draft) => {
        draft.mark = EMPTY_DRAFT.mark;
        draft.waiting = [];
        delete draft.planes;
        delete draft.belongs;
        delete draft.belongsNot;
        delete draft.inFront;
        draft.placement = EMPTY_DRAFT.placement;
        dropTakes(draft);
      });
    },
    lastMarkBroughtBack(state) {
      const mark = state.project?.lastMark;
      if (!mark) return;
      changeDraft(state, (draft) => {
        draft.mark = mark;
        dropTakes(draft);
      });
    },
    whatChosen(state, { payload }: PayloadAction<What>) {
      changeDraft(state, (draft) => {
        if (draft.what === payload) return;
        // Far away means something else for each: a place to go to, a length, a place to take from.
        if (isPlacing(draft.what) !== isPlacing(payload)) draft.placement = EMPTY_DRAFT.placement;
        draft.what = payload;
        const isForPlacing = state.paintTarget !== 'protect' && state.paintTarget !== 'donors';
        if (!isPlacing(payload) && isForPlacing) state.paintTarget = 'mark';
        dropTakes(draft);
      });
    },
    placed(state, { payload }: PayloadAction<Partial<Draft['placement']>>) {
      changeDraft(state, (draft) => void Object.assign(draft.placement, payload), 'place');
    },
    rebuildSet(
      state,
      { payload }: PayloadAction<Partial<Pick<Draft, 'closeness' | 'rebuiltLight' | 'placedLight' | 'withShadow'>>>,
    ) {
      changeDraft(state, (draft) => void Object.assign(draft, payload), 'rebuild');
    },

    gestureEnded: (state) => void (state.gesture = ''),

    /** A round begins; takes of other parameters are gone, those of earlier rounds stay. */
    roundStarted(state) {
      const draft = state.project?.draft;
      if (!draft) return;
      const now = fingerprint(draft);
      if (draft.takesFor !== now) {
        draft.takes = [];
        delete draft.chosen;
      }
      draft.takesFor = now;
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
    takeUsed(state) {
      const project = state.project;
      if (!project?.draft.what || !project.draft.chosen) return;
      remember(project);
      const { what, editing } = project.draft;
      const operation = operationOf(what);
      const params = paramsOf(project.draft);
      const content = { type: what, version: operation.version, params };
      const open = editing ? project.steps.find((step) => step.id === editing) : undefined;
      if (open) {
        const before = frameOrigin(open);
        Object.assign(open, content);
        keepPlaces(project, open, before);
      } else project.steps.push({ id: nanoid(), enabled: true, ...content });
      if (isMarked(project.draft)) project.lastMark = project.draft.mark;
      const [next, ...waiting] = project.draft.waiting;
      if (jobOf(project.draft) === 'frame') {
        backToSubjects(project);
        return;
      }
      project.draft = nextDraft(project.draft);
      if (next) Object.assign(project.draft, { mark: next, waiting });
      state.markShown = true;
      state.paintTarget = 'mark';
    },
    draftLeft(state) {
      const project = state.project;
      if (!project) return;
      remember(project);
      if (isMarked(project.draft) && !project.draft.editing) project.lastMark = project.draft.mark;
      project.draft = nextDraft(project.draft);
    },

    stepOpened(state, { payload }: PayloadAction<string>) {
      const project = state.project;
      const step = project?.steps.find((candidate) => candidate.id === payload);
      if (!project || !step) return;
      remember(project);
      project.draft = draftOfStep(step);
    },
    stepSwitched(state, { payload }: PayloadAction<string>) {
      changeSteps(state, (project) => {
        const step = project.steps.find((candidate) => candidate.id === payload);
        if (!step) return;
        const before = frameOrigin(step);
        step.enabled = !step.enabled;
        keepPlaces(project, step, before);
      });
    },
    stepRemoved(state, { payload }: PayloadAction<string>) {
      changeSteps(state, (project) => {
        const gone = project.steps.find((step) => step.id === payload);
        if (gone) keepPlaces(project, { ...gone, enabled: false }, frameOrigin(gone));
        project.steps = project.steps.filter((step) => step.id !== payload);
        if (project.draft.editing === payload) project.draft = nextDraft(project.draft);
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
    troubleTold: (state, { payload }: PayloadAction<string>) => void (state.trouble = payload),
  },
});

/** What stays for the next place: the same thing happening, with the same settings. */
const nextDraft = ({ what, closeness, rebuiltLight, placedLight, withShadow, protect, horizonPx }: Draft): Draft => ({
  ...EMPTY_DRAFT,
  ...(what && OFFERED.includes(what) && { what }),
  ...(protect && { protect }),
  ...(horizonPx !== undefined && { horizonPx }),
  closeness,
  rebuiltLight,
  placedLight,
  withShadow,
});

/** A mark with one more shape; taking away from nothing leaves nothing. */
function withShape(mark: Mark, shape: MarkShape): Mark {
  const isEmpty = mark.shapes.length === 0;
  if (isEmpty && shape.combine === 'without') return mark;
  const startsOver = isEmpty || shape.combine === 'startOver';
  return { ...mark, shapes: startsOver ? [{ ...shape, combine: 'startOver' }] : [...mark.shapes, shape] };
}

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

/** What follows a step whose frame has moved over the picture stays where it is in the picture. */
function keepPlaces(project: Project, changed: Step, before: { x: number; y: number }): void {
  const after = frameOrigin(changed);
  const [dx, dy] = [before.x - after.x, before.y - after.y];
  if (dx === 0 && dy === 0) return;
  const from = project.steps.findIndex(({ id }) => id === changed.id) + 1;
  project.steps = project.steps.map((step, index) => (index < from ? step : shiftStep(step, dx, dy)));
}

/** After a new frame: the draft on subjects that waited, its marks where they are in the picture. */
function backToSubjects(project: Project): void {
  // Stretching leaves no mark where it was: what waited is at its old place only to the left and above.
  const { x, y } = project.draft.reframe?.frame.rect ?? { x: 0, y: 0 };
  const [dx, dy] = [-x, -y];
  const waiting = project.asideDraft;
  project.draft = waiting ? shiftMarks(waiting, dx, dy) : { ...EMPTY_DRAFT };
  dropTakes(project.draft);
  project.keptMarks = shiftMarks({ all: project.keptMarks.map(({ mark }) => mark) }, dx, dy).all.map((mark, k) => ({
    name: project.keptMarks[k]!.name,
    mark,
  }));
  if (project.lastMark) Object.assign(project, shiftMarks({ lastMark: project.lastMark }, dx, dy));
  delete project.asideDraft;
}

/** Whether a draft that waited can still be gone on with: its open step is there, and no other is. */
const fits = (draft: Draft, project: Project): boolean =>
  !draft.editing || project.steps.some(({ id }) => id === draft.editing);

function dropTakes(draft: Draft): void {
  draft.takes = [];
  draft.takesFor = '';
  delete draft.chosen;
}

/** A copy that later changes in the same reducer do not reach. */
const snapshotOf = ({ steps, draft }: Project): Snapshot => ({ steps: current(steps), draft: current(draft) });

function remember(project: Project): void {
  project.past.push(snapshotOf(project));
  if (project.past.length > MOST_UNDO) project.past.shift();
  project.future = [];
}

/** Changes the draft with one undo entry; all changes of one unbroken `gesture` share theirs. */
function changeDraft(state: BenchState, change: (draft: Draft) => void, gesture = ''): void {
  if (!state.project) return;
  if (!gesture || state.gesture !== gesture) remember(state.project);
  state.gesture = gesture;
  change(state.project.draft);
}

function changeSteps(state: BenchState, change: (project: Project) => void): void {
  if (!state.project) return;
  state.gesture = '';
  remember(state.project);
  change(state.project);
}

export const benchActions = benchSlice.actions;

/** What the photo and the hand on it depend on; progress, which comes often, is not among it. */
export function selectPhotoState({ bench }: { bench: BenchState }) {
  const { project, tool, combine, brushRadiusPx, brushHardness, brushIntensity, split, markShown } = bench;
  const { paintTarget, planesShown, donorsShown, reachTolerance, reachConnected } = bench;
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
    frameRatio,
    overlays,
    lineWanted,
    lines,
  };
}

export type PhotoState = ReturnType<typeof selectPhotoState>;
