import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { SphereTurn } from '../../../operations/kinds/turnSphere/index.ts';
import { turned } from '../../features/bench/around/looking.ts';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import type { AroundProps } from '../../features/bench/kindView.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { setTurn, turnNow } from './sphereTurn.ts';

/** How the sphere is levelled: by a line, by angles. */
export function LevelSection({ look, lineWanted, onLineWanted }: AroundProps) {
  const dispatch = useAppDispatch();
  const turn = useAppSelector(({ bench }) => turnNow(bench));
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  const level = (change: Partial<SphereTurn>): void => void dispatch(setTurn({ ...turn, ...change }));
  return (
    <Box component="section" aria-label="Level">
      <Typography component="h2" variant="h2">
        Level
      </Typography>
      <Button
        variant={lineWanted ? 'contained' : 'outlined'}
        aria-pressed={lineWanted}
        onClick={() => onLineWanted(!lineWanted)}
      >
        {lineWanted ? 'Draw along the horizon' : 'Draw what should be level'}
      </Button>
      {lineWanted && (
        <Typography variant="caption" color="text.secondary">
          Draw along the horizon, or along an upright edge near it. Turn a quarter and draw another for the rest.
        </Typography>
      )}
      <PxSlider
        label="Tilt up"
        unit="°"
        value={Math.round(turn.pitch * 10) / 10}
        min={-30}
        max={30}
        step={0.1}
        onChange={(pitch) => level({ pitch })}
        onSettled={settle}
      />
      <PxSlider
        label="Lean"
        unit="°"
        value={Math.round(turn.roll * 10) / 10}
        min={-30}
        max={30}
        step={0.1}
        onChange={(roll) => level({ roll })}
        onSettled={settle}
      />
      <Button
        onClick={() => {
          settle();
          level({ yaw: turned(look.get(), { yaw: turn.yaw - look.get().yaw }).yaw });
          look.set(turned(look.get(), { yaw: 0 }));
        }}
      >
        Make this the direction ahead
      </Button>
    </Box>
  );
}
