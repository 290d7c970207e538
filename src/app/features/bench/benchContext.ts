import { createContext, useContext, useSyncExternalStore } from 'react';
import type { Desk, DeskView } from '../../desk/desk.ts';
import type { ViewControl } from './photo/viewControl.ts';

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
}

export const BenchContext = createContext<BenchParts | undefined>(undefined);

export function useBenchParts(): BenchParts {
  const parts = useContext(BenchContext);
  if (!parts) throw new Error('Used outside the Bench.');
  return parts;
}

export function useDeskView(): DeskView {
  const { desk } = useBenchParts();
  return useSyncExternalStore(desk.subscribe, desk.view);
}
