import { createContext, useContext, useSyncExternalStore } from 'react';
import type { Desk } from '../../desk/desk.ts';
import type { DeskView } from '../../desk/deskView.ts';
import { useAppSelector } from '../../store/store.ts';
import type { KindView } from './kindView.ts';
import type { ViewControl } from './photo/viewControl.ts';
import type { Point } from './photo/viewport.ts';

/** What is looked at for the moment; not part of the project. */
export interface Looking {
  /** The original is held up for comparison. */
  original: boolean;
  /** The take under the pointer or focus, shown before it is chosen. */
  hoveredTake: string | undefined;
}

export interface BenchParts {
  desk: Desk;
  view: ViewControl;
  looking: Looking;
  look(change: Partial<Looking>): void;
  /** 100 %, with what is being changed in the middle. */
  lookClosely(): void;
  /** How each kind of step is seen and worked on. */
  kinds: readonly KindView[];
}

export const BenchContext = createContext<BenchParts | undefined>(undefined);

export function useBenchParts(): BenchParts {
  const parts = useContext(BenchContext);
  if (!parts) throw new Error('Used outside the Bench.');
  return parts;
}

/** How the kind is seen and worked on that the draft is to become. */
export function useKindView(): KindView | undefined {
  const { kinds } = useBenchParts();
  const kind = useAppSelector((state) => state.bench.project!.draft.change?.kind);
  return kinds.find(({ type }) => type === kind);
}

export function useDeskView(): DeskView {
  const { desk } = useBenchParts();
  return useSyncExternalStore(desk.subscribe, desk.view);
}

/** The middle of what is being changed: of the chosen take where there is one, else of the mark. */
export function workCentre(desk: Desk, chosen: string | undefined): Point | undefined {
  const { takes, outline } = desk.view();
  const rect = (chosen && takes.get(chosen)?.at(-1)?.rect) ?? outline?.box;
  return rect && rect.width > 0 ? { x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 } : undefined;
}
