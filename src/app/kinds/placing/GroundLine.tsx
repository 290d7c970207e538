import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import { useBenchParts, useDeskView } from '../../features/bench/benchContext.ts';
import { onGround } from './onGround.ts';
import { usePlacing } from './usePlacing.ts';

/** Where the horizon is supposed, as a share of the height, when no line of the picture tells it. */
const GUESSED_HORIZON = 0.35;

/** Sizes and shadows that follow the ground by the picture's horizon. */
export function GroundLine() {
  const { desk } = useBenchParts();
  const { photo } = useDeskView().source;
  const { draft, own, set } = usePlacing();
  const { horizonPx } = own;
  const change = async (on: boolean): Promise<void> => {
    if (!on) {
      set({ horizonPx: undefined });
      return;
    }
    try {
      const found = Math.round((await desk.picture.horizon(desk.shown())) ?? GUESSED_HORIZON * photo.height);
      // What was placed before lies on the ground now, too.
      const ground = onGround(draft.mark, own.placement, desk.view(), found);
      const settled = ground?.settle(ground.from);
      set({ horizonPx: found, ...(settled && { placement: { ...own.placement, ...settled } }) });
    } catch (error) {
      desk.tell(error);
    }
  };
  return (
    <FormControlLabel
      control={<Switch size="small" checked={horizonPx !== undefined} onChange={(_, on) => void change(on)} />}
      label="Size and shadow follow the ground"
      title="Nearer to the horizon things get smaller, and shadows keep to the light; drag the horizon where it is wrong"
      slotProps={{ typography: { variant: 'body2' } }}
    />
  );
}
