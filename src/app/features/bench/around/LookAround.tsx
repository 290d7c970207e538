import { lazy, Suspense, useCallback, useState } from 'react';
import Box from '@mui/material/Box';
import type { Size } from '../../../../core/image/rect.ts';
import { useAppDispatch, useAppStore } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { AroundCard } from './AroundCard.tsx';
import type { LookControl } from './lookControl.ts';
import { viewLookedAt } from './looking.ts';
import type { Point } from './LookAroundView.tsx';

/** Drawn with a library of its own, fetched with the first sphere. */
const LookAroundView = lazy(async () => ({ default: (await import('./LookAroundView.tsx')).LookAroundView }));

interface LookAroundProps {
  look: LookControl;
  isFolded: boolean;
}

/** Looking around in a sphere, with what can be done from there. */
export function LookAround({ look, isFolded }: LookAroundProps) {
  const dispatch = useAppDispatch();
  const { photo } = useDeskView().source;
  const [screen, setScreen] = useState<Size>({ width: 4, height: 3 });
  const [lineWanted, setLineWanted] = useState(false);
  const store = useAppStore();
  const { kinds } = useBenchParts();
  const onLine = useCallback(
    (from: Point, to: Point) => {
      for (const { around } of kinds) around?.drawn(from, to, look, screen, store);
    },
    [kinds, look, screen, store],
  );
  return (
    <>
      <Suspense fallback={<Box sx={{ flex: 1 }} />}>
        <LookAroundView look={look} onResize={setScreen} onLine={lineWanted ? onLine : undefined} />
      </Suspense>
      {!isFolded && (
        <AroundCard
          look={look}
          lineWanted={lineWanted}
          onLineWanted={setLineWanted}
          onWork={() => dispatch(benchActions.viewEntered({ view: viewLookedAt(look.get(), screen, photo) }))}
        />
      )}
    </>
  );
}
