import { current } from '@reduxjs/toolkit';
import type { Size } from '../../core/image/rect.ts';
import type { Combine } from '../../core/mask/combine.ts';
import type { DrawnLine } from '../../core/geometry/uprightFrom.ts';
import type { FailedStep } from '../../engine/workshop.ts';
import type { Draft } from '../../operations/draft.ts';
import type { Project, Snapshot } from '../../storage/projectSchema.ts';
import { isMarked } from '../../operations/draftBase.ts';

const MAX_UNDO = 40;

/** What draws on the photo; kinds of steps may bring further tools. */
export type MarkTool =
  'lasso' | 'corners' | 'edges' | 'box' | 'ellipse' | 'brush' | 'reach' | 'subject' | `kind ${string}`;

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
  /** The step that can't be made, and why; none after it was. */
  failed: FailedStep | undefined;
  /** The step that is set at once while one looks around; without it, the last of its kind. */
  adjusted?: string | undefined;
  /** What should be known about a change just made; empty when nothing. */
  notice: string;
  /** One sentence about what went wrong last. */
  trouble: string;
  split: boolean;
  panelsFolded: boolean;
  markShown: boolean;
  paintTarget: PaintTarget;
  /** Whether planes with their corners, and where new pixels came from, are drawn on the photo. */
  planesShown: boolean;
  donorsShown: boolean;
  /** Whether lines that run on are drawn on the photo, with their points. */
  runOnShown: boolean;
  /** Whether the hand draws such a line. */
  runOnWanted: boolean;
  /** Which of them is worked on, if any. */
  runOnInHand: number | undefined;
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

export const initialState: BenchState = {
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
  failed: undefined,
  notice: '',
  trouble: '',
  split: false,
  panelsFolded: false,
  markShown: true,
  paintTarget: 'mark',
  planesShown: false,
  donorsShown: false,
  runOnShown: false,
  runOnWanted: false,
  runOnInHand: undefined,
  frameRatio: undefined,
  overlays: { lines: 'none', safeShare: 0, gaze: false },
  lineWanted: false,
  lines: [],
  gesture: '',
};

export function dropTakes(draft: Draft): void {
  draft.takes = [];
  draft.takesFor = '';
  delete draft.takesOn;
  delete draft.chosen;
}

/** The step that can't be made where the draft needs its picture: that step itself, and earlier ones, can be worked on. */
export function failedBefore({ project, failed }: BenchState): FailedStep | undefined {
  if (!project || !failed) return undefined;
  const open = project.steps.findIndex(({ id }) => id === project.draft.editing);
  return open < 0 || open > failed.index ? failed : undefined;
}

/** A copy that later changes in the same reducer do not reach. */
export const snapshotOf = ({ steps, draft }: Project): Snapshot => ({ steps: current(steps), draft: current(draft) });

export function remember(project: Project): void {
  project.past.push(snapshotOf(project));
  if (project.past.length > MAX_UNDO) project.past.shift();
  project.future = [];
}

/** Changes the draft with one undo entry; all changes of one unbroken `gesture` share theirs. */
export function changeDraft(state: BenchState, change: (draft: Draft) => void, gesture = ''): void {
  if (!state.project) return;
  if (!gesture || state.gesture !== gesture) remember(state.project);
  state.gesture = gesture;
  change(state.project.draft);
}

export function changeSteps(state: BenchState, change: (project: Project) => void): void {
  if (!state.project) return;
  state.gesture = '';
  remember(state.project);
  change(state.project);
}

/** The draft's mark stays one key away, with the view it was made in. */
export function rememberMark(project: Project): void {
  const { mark, view } = project.draft;
  if (!isMarked(project.draft)) return;
  project.lastMark = mark;
  if (view) project.lastMarkView = view;
  else delete project.lastMarkView;
}

/** The largest brush is as wide as a quarter of the picture's longer side: a larger one marks it all by a slip. */
export const largestBrushRadius = ({ width, height }: Size): number => Math.ceil(Math.max(width, height) / 8);
