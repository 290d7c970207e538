import Button from '@mui/material/Button';
import { refine } from '../../../operations/kinds/refine/index.ts';
import { useBenchParts, useDeskView } from '../../features/bench/benchContext.ts';
import { Hint } from '../../features/bench/card/Hint.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { useAppDispatch } from '../../store/store.ts';

/** Uses a take, and begins to make a part of it anew. */
function RefineButton({ canUse }: { canUse: boolean }) {
  const { desk } = useBenchParts();
  const { photo } = useDeskView().source;
  const dispatch = useAppDispatch();
  return (
    <Button
      disabled={!canUse}
      onClick={() => {
        desk.takeOver();
        dispatch(benchActions.partAsked({ type: refine.type, photo }));
      }}
      title="Uses this take; then paint over what is not good yet"
    >
      Use it and refine a part
    </Button>
  );
}

export const refineView: KindView = {
  type: refine.type,
  Fields: () => <Hint>Paint over what is not good yet: only that is made anew.</Hint>,
  AfterTakes: RefineButton,
};
