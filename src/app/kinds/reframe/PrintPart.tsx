import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { enlargementFor, printPx, withRatio } from '../../../core/geometry/frameRects.ts';
import type { Size } from '../../../core/image/rect.ts';
import { useAppDispatch } from '../../store/store.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { enlarge } from '../../../operations/kinds/enlarge/index.ts';
import type { FrameOutlook } from './useFrameDraft.ts';
import { useFrameSetting } from './useFrameSetting.ts';

type Unit = 'mm' | 'inch';

const RESOLUTIONS = [150, 200, 240, 300, 360] as const;
/** Ratios this near are taken for the same. */
const NEAR = 0.003;

/** A print's size in length and resolution: its ratio for the frame, and whether there are pixels enough for it. */
export function PrintPart({ frame, isUnchanged }: FrameOutlook) {
  const dispatch = useAppDispatch();
  const [unit, setUnit] = useState<Unit>('inch');
  const [resolution, setResolution] = useState(300);
  const [width, setWidth] = useState('8');
  const [height, setHeight] = useState('10');
  const print = printOf(width, height, unit, resolution);
  const { rect } = frame;
  const setting = useFrameSetting(frame);
  const fits = print && Math.abs(print.width / print.height / (rect.width / rect.height) - 1) < NEAR;
  const enlargement = print ? enlargementFor(rect, print) : 0;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1.1fr', gap: 1 }}>
        <TextField size="small" label="Wide" value={width} onChange={(event) => setWidth(event.target.value)} />
        <TextField size="small" label="High" value={height} onChange={(event) => setHeight(event.target.value)} />
        <TextField
          select
          size="small"
          label="In"
          value={unit}
          onChange={(event) => setUnit(event.target.value as Unit)}
        >
          <MenuItem value="inch">inch</MenuItem>
          <MenuItem value="mm">mm</MenuItem>
        </TextField>
      </Box>
      <TextField
        select
        size="small"
        label="Resolution"
        value={resolution}
        onChange={(event) => setResolution(Number(event.target.value))}
      >
        {RESOLUTIONS.map((each) => (
          <MenuItem key={each} value={each}>
            {each} px an inch
          </MenuItem>
        ))}
      </TextField>
      <Typography variant="caption" color="text.secondary" role="status">
        {print
          ? `That is ${print.width} x ${print.height} px. ${verdict(rect, print, resolution)}`
          : 'Give a width and a height larger than 0.'}
      </Typography>
      <Button
        disabled={!print || fits}
        onClick={() => {
          if (!print) return;
          const ratio = print.width / print.height;
          dispatch(benchActions.ratioLocked(ratio));
          setting.set({ rect: withRatio(rect, ratio, 'widen') });
        }}
      >
        Widen the frame to this form
      </Button>
      {print && fits && enlargement > 1.001 && (
        <Button
          disabled={!isUnchanged}
          onClick={() => dispatch(benchActions.stepAdded({ type: enlarge.type, params: print }))}
        >
          {isUnchanged ? `Enlarge to ${print.width} x ${print.height} px` : 'Use the frame, then enlarge'}
        </Button>
      )}
    </Box>
  );
}

function printOf(width: string, height: string, unit: Unit, resolution: number): Size | undefined {
  const [w, h] = [width, height].map((text) => printPx(Number(text.replace(',', '.')), unit, resolution));
  return w! >= 1 && h! >= 1 && w! <= 30_000 && h! <= 30_000 ? { width: w!, height: h! } : undefined;
}

/** Whether a frame has the pixels for a print. */
function verdict(rect: Size, print: Size, resolution: number): string {
  const enlargement = enlargementFor(rect, print);
  if (enlargement <= 1.001) return 'The frame has pixels enough.';
  const reached = Math.round(resolution / enlargement);
  return `The frame falls short: it gives ${reached} px an inch.`;
}
