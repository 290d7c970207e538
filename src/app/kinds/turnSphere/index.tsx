import { turnSphere } from '../../../operations/kinds/turnSphere/index.ts';
import type { KindView } from '../../features/bench/kindView.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { turnByLine } from './levelBy.ts';
import { LevelSection } from './LevelSection.tsx';
import { setTurn, turnNow } from './sphereTurn.ts';

export const turnSphereView: KindView = {
  type: turnSphere.type,
  around: {
    Section: LevelSection,
    drawn(from, to, look, screen, { dispatch, getState }) {
      dispatch(benchActions.gestureEnded());
      dispatch(setTurn(turnByLine(from, to, look.get(), screen, turnNow(getState().bench))));
    },
  },
};
