import { inverseRotation, NO_TURN, type Rotation } from '../../core/panorama/camera.ts';
import { multiplyHomographies } from '../../core/geometry/homography.ts';
import { turnedView } from '../../core/sphere/viewAround.ts';
import type { Step } from '../recipe.ts';
import { kindOf } from '../kinds.ts';

/** By how much a step turns the sphere: not at all while it is switched off, or if it does something else. */
export const stepTurn = ({ type, enabled, params }: Pick<Step, 'type' | 'enabled' | 'params'>): Rotation =>
  (enabled && kindOf(type).turn?.(params)) || NO_TURN;

/** The turn that is still to be made after one turn to come to another. */
export const turnBetween = (before: Rotation, after: Rotation): Rotation =>
  multiplyHomographies(after, inverseRotation(before));

/** A record whose view, if it has one, shows the same after all that is around has been turned. */
export function withTurnedView<T extends { view?: Step['params']['view'] }>(record: T, turn: Rotation): T {
  return record.view ? { ...record, view: turnedView(record.view, turn) } : record;
}
