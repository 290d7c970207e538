import { lazy, Suspense, useCallback, useState } from 'react';
import Box from '@mui/material/Box';
import type { Size } from '../../../../core/image/rect.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { AroundCard, useSphereTurn } from './AroundCard.tsx';
import { turnByLine } from './levelBy.ts';
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
  const turn = useSphereTurn();
  const levelBy = useCallback(
    (from: Point, to: Point) => {
      dispatch(benchActions.gestureEnded());
      dispatch(benchActions.sphereTurned(turnByLine(from, to, look.get(), screen, turn)));
    },
    [dispatch, look, screen, turn],
  );
  return (
    <>
      <Suspense fallback={<Box sx={{ flex: 1 }} />}>
        <LookAroundView look={look} onResize={setScreen} onLine={lineWanted ? levelBy : undefined} />
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
