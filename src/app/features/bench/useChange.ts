import { ownOf } from '../../../operations/draft.ts';
import type { StepKind, StepParams } from '../../../operations/kind.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';

/** How a draft's own settings are changed. */
export interface Setting<Own> {
  /** By one press: an undo entry of its own. */
  set(change: Partial<Own>): void;
  /** By something that is slid or typed: all changes until it settles are one undo entry. */
  slide(change: Partial<Own>): void;
  settle(): void;
}

/** `gesture` tells one unbroken change from another. */
export function useSetting<Own extends object>(gesture: string): Setting<Own> {
  const dispatch = useAppDispatch();
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  const slide = (change: Partial<Own>): void => void dispatch(benchActions.changeSet({ change, gesture }));
  return {
    slide,
    settle,
    set(change) {
      settle();
      slide(change);
    },
  };
}

/** What the draft holds for this kind alone; undefined while it is to become another. */
export const useOwn = <Type extends string, Params extends StepParams, Own extends object>(
  kind: StepKind<Type, Params, Own>,
): Own | undefined => useAppSelector((state) => ownOf(state.bench.project!.draft, kind));
