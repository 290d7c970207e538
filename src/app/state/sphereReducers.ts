import { nanoid, type PayloadAction } from '@reduxjs/toolkit';
import { wholeSphere } from '../../core/sphere/placement.ts';
import type { SphereView } from '../../core/sphere/sphereView.ts';
import { draftOf, EMPTY_DRAFT, offeredIn } from '../../operations/draft.ts';
import type { Mark } from '../../operations/marks/markSchema.ts';
import { stepOf } from '../../operations/recipe.ts';
import { remember, rememberMark, type BenchState } from './benchState.ts';
import { followChange } from './followChange.ts';

/** What is particular to spheres: their direct views, and what is set while one looks around. */
export const sphereReducers = {
  /** Whether the photo is a whole sphere: the answer to a question, or a change of mind. */
  sphereAnswered(state: BenchState, { payload: isSphere }: PayloadAction<boolean>) {
    const source = state.project?.source;
    if (!source) return;
    delete source.asksSphere;
    delete source.sphereDoubt;
    if (isSphere) source.sphere = wholeSphere({ width: source.width, height: source.height });
  },
  /** Work begins in a direct view, perhaps on something that is marked in it already. */
  viewEntered(state: BenchState, { payload: { view, mark } }: PayloadAction<{ view: SphereView; mark?: Mark }>) {
    const { project } = state;
    if (!project) return;
    remember(project);
    const first = mark ? draftOf(offeredIn('subjects')[0]!.type, view) : EMPTY_DRAFT;
    project.draft = { ...first, view, ...(mark && { mark }) };
    Object.assign(state, { paintTarget: 'mark', gesture: '' });
  },
  viewLeft(state: BenchState) {
    const { project } = state;
    if (!project?.draft.view) return;
    remember(project);
    if (!project.draft.editing) rememberMark(project);
    project.draft = { ...EMPTY_DRAFT };
    Object.assign(state, { paintTarget: 'mark', gesture: '' });
  },
  /** A step that is seen as it is set: the one that was opened, else the last of its kind, else a new one. */
  setAtOnce(state: BenchState, { payload: { type, own } }: PayloadAction<{ type: string; own: object }>) {
    const { project } = state;
    if (!project) return;
    if (state.gesture !== type) remember(project);
    state.gesture = type;
    const isMeant = ({ id }: { id: string }): boolean => id === state.adjusted;
    const known = project.steps.find(isMeant) ?? project.steps.findLast((step) => step.type === type && step.enabled);
    const next = stepOf(known?.id ?? nanoid(), type, own);
    const before = known ? { ...known } : { ...next, enabled: false };
    if (known) Object.assign(known, { params: next.params });
    else project.steps.push(next);
    followChange(state, known ?? next, before);
  },
};
