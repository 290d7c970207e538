import { nanoid, type PayloadAction } from '@reduxjs/toolkit';
import type { Rotation } from '../../../core/panorama/camera.ts';
import { wholeSphere } from '../../../core/sphere/placement.ts';
import type { SphereView } from '../../../core/sphere/sphereView.ts';
import { operationOf } from '../../../operations/catalogue.ts';
import type { Mark } from '../../../operations/marks/markSchema.ts';
import type { Step } from '../../../operations/recipe.ts';
import { stepTurn, turnBetween, withTurnedView } from '../../../operations/sphere/turnStep.ts';
import type { SphereTurn } from '../../../operations/turnSphere/index.ts';
import type { Project } from '../../../storage/projectSchema.ts';
import { remember, rememberMark, type BenchState } from './benchState.ts';
import { EMPTY_DRAFT } from './draft.ts';

/** What is particular to spheres: their direct views, and how they are turned. */
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
    project.draft = { ...EMPTY_DRAFT, view, ...(mark && { mark, what: 'clear' as const }) };
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
  /** All that is around is turned: by the step that does it already, or a new one. */
  sphereTurned(state: BenchState, { payload: turn }: PayloadAction<SphereTurn>) {
    const { project } = state;
    if (!project) return;
    if (state.gesture !== 'turn') remember(project);
    state.gesture = 'turn';
    const operation = operationOf('turnSphere');
    const params = operation.schema.parse({ ...turn, take: { strategy: operation.strategies[0], seed: 1 } });
    const known = project.steps.findLast(({ type, enabled }) => type === 'turnSphere' && enabled);
    const before = known && stepTurn(known);
    if (known) Object.assign(known, { params });
    else project.steps.push({ id: nanoid(), enabled: true, type: 'turnSphere', version: operation.version, params });
    keepViews(project, known ?? project.steps.at(-1)!, before);
  },
};

/** What follows a step that turns the sphere goes on showing, and changing, the same things. */
export function keepViews(
  project: Project,
  changed: Step,
  before: Rotation = stepTurn({ ...changed, enabled: false }),
) {
  const turn = turnBetween(before, stepTurn(changed));
  const from = project.steps.findIndex(({ id }) => id === changed.id) + 1;
  project.steps = project.steps.map((step, index) =>
    index < from ? step : { ...step, params: withTurnedView(step.params, turn) },
  );
  project.draft = withTurnedView(project.draft, turn);
}
