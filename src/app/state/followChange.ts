import { current, isDraft } from '@reduxjs/toolkit';
import { followDraft } from '../../operations/draft.ts';
import { followSteps, type KnownReshapes } from '../../operations/followSteps.ts';
import { kindOf } from '../../operations/kinds.ts';
import { followMarks } from '../../operations/followMarks.ts';
import type { Step } from '../../operations/recipe.ts';
import { stepTurn, turnBetween, withTurnedView } from '../../operations/sphere/turnStep.ts';
import type { Project } from '../../storage/projectSchema.ts';
import type { BenchState } from './benchState.ts';

const plain = <T>(value: T): T => (isDraft(value) ? (current(value as object) as T) : value);

/**
 * What comes after a step that has changed from `before` goes on meaning the same places of the picture, or the same
 * things around in a sphere: later steps, what is being worked on, marks that are kept. Steps that can't follow keep
 * what they had, and the user is told.
 */
export function followChange(state: BenchState, changed: Step, before: Step, known?: KnownReshapes): void {
  const project = state.project!;
  const [now, then] = [plain(changed), plain(before)];
  const { steps, by, kept } = followSteps(project.steps.map(plain), now, then, project.source, known);
  project.steps = steps;
  if (by) {
    const at = project.steps.findIndex(({ id }) => id === now.id);
    const open = project.steps.findIndex(({ id }) => id === project.draft.editing);
    if (open < 0 || open > at) project.draft = followDraft(plain(project.draft), by);
    if (project.asideDraft) project.asideDraft = followDraft(plain(project.asideDraft), by);
    project.keptMarks = project.keptMarks.map((mark) => (mark.view ? mark : followMarks(plain(mark), by)));
    if (project.lastMark && !project.lastMarkView)
      Object.assign(project, followMarks({ lastMark: plain(project.lastMark) }, by));
  }
  if (kindOf(now.type).turn || kindOf(then.type).turn) keepViews(project, now, then);
  if (kept.length > 0) state.notice = noticeOf(kept, steps);
}

/** What follows a step that turns the sphere goes on showing, and changing, the same things. */
function keepViews(project: Project, changed: Step, before: Step): void {
  const turn = turnBetween(stepTurn(before), stepTurn(changed));
  const from = project.steps.findIndex(({ id }) => id === changed.id) + 1;
  project.steps = project.steps.map((step, index) =>
    index < from ? step : { ...step, params: withTurnedView(step.params, turn) },
  );
  project.draft = withTurnedView(project.draft, turn);
}

function noticeOf(kept: readonly Step[], steps: readonly Step[]): string {
  const numbers = kept.map(({ id }) => steps.findIndex((step) => step.id === id) + 1);
  const which = numbers.length === 1 ? `Step ${numbers[0]} stays` : `Steps ${numbers.join(', ')} stay`;
  return `${which} as before: what is marked there can’t follow the new frame. Look whether it still fits.`;
}
