import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { JoinOptions } from '../../../core/panorama/joinPhotos.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { CardPart } from '../bench/card/CardPart.tsx';
import { PxSlider } from '../bench/card/PxSlider.tsx';
import { stitchActions } from './stitchSlice.ts';

/** Two photos that have nothing in common, side by side: which is first, how far apart, in whose tone. */
export function JoinCard({ onJoin }: { onJoin: (options: JoinOptions) => void }) {
  const dispatch = useAppDispatch();
  const frames = useAppSelector((state) => state.stitch.frames);
  const isBusy = useAppSelector((state) => state.stitch.work.stage !== '');
  const [gapPx, setGapPx] = useState(200);
  const [tone, setTone] = useState(100);
  const [open, setOpen] = useState(true);
  const [first, second] = frames;
  return (
    <CardPart
      number={1}
      title="Join two photos"
      line={gapPx < 0 ? 'Overlapping' : `${gapPx} px between`}
      open={open}
      onToggle={() => setOpen(!open)}
    >
      <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
        <Typography variant="body2">
          {first!.name}, then {second!.name}
        </Typography>
        <Button onClick={() => dispatch(stitchActions.framesSwapped())}>The other way round</Button>
        <PxSlider label="Between" value={gapPx} min={-800} max={2000} step={10} onChange={setGapPx} />
        <PxSlider label="Tone" value={tone} min={0} max={100} unit="%" onChange={setTone} />
        <Typography variant="caption" color="text.secondary">
          The second takes on so much of the tone of the first, which is not changed. The space between is marked on the
          Bench, and rebuilt there with takes; below 0 they overlap, and are blended.
        </Typography>
        <Button
          variant="contained"
          color="primary"
          disabled={isBusy}
          onClick={() => onJoin({ gapPx, tone: tone / 100 })}
        >
          Join, and open on the Bench
        </Button>
      </Box>
    </CardPart>
  );
}
