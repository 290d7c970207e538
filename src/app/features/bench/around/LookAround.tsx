import { useCallback, useState } from 'react';
import type { Size } from '../../../../core/image/rect.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { AroundCard, useSphereTurn } from './AroundCard.tsx';
import { turnByLine } from './levelBy.ts';
import { viewLookedAt, type Direction } from './looking.ts';
import { LookAroundView, type Point } from './LookAroundView.tsx';

interface LookAroundProps {
  direction: Direction;
  onTurn: (next: Direction) => void;
  isFolded: boolean;
}

/** Looking around in a sphere, with what can be done from there. */
export function LookAround({ direction, onTurn, isFolded }: LookAroundProps) {
  const dispatch = useAppDispatch();
  const { photo } = useDeskView().source;
  const [screen, setScreen] = useState<Size>({ width: 4, height: 3 });
  const [lineWanted, setLineWanted] = useState(false);
  const turn = useSphereTurn();
  const levelBy = useCallback(
    (from: Point, to: Point) => {
      dispatch(benchActions.gestureEnded());
      dispatch(benchActions.sphereTurned(turnByLine(from, to, direction, screen, turn)));
    },
    [dispatch, direction, screen, turn],
  );
  return (
    <>
      <LookAroundView
        direction={direction}
        onTurn={onTurn}
        onResize={setScreen}
        onLine={lineWanted ? levelBy : undefined}
      />
      {!isFolded && (
        <AroundCard
          direction={direction}
          onTurn={onTurn}
          lineWanted={lineWanted}
          onLineWanted={setLineWanted}
          onWork={() => dispatch(benchActions.viewEntered({ view: viewLookedAt(direction, screen, photo) }))}
        />
      )}
    </>
  );
}
