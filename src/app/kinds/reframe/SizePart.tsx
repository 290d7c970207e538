import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { uprightHomography } from '../../../core/geometry/frameGeometry.ts';
import { applyHomography } from '../../../core/geometry/homography.ts';
import { withRatio, withRoom } from '../../../core/geometry/frameRects.ts';
import { wholeOf, type Rect } from '../../../core/image/rect.ts';
import { SIDES, type Side } from '../../../operations/kinds/reframe/schema.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useBenchParts } from '../../features/bench/benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { choiceGrid } from '../../features/bench/card/choiceGrid.ts';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import { SideField } from '../../features/bench/card/SideField.tsx';
import { parseRatio, RATIOS } from './ratios.ts';
import type { FrameOutlook } from './useFrameDraft.ts';
import { useFrameSetting } from './useFrameSetting.ts';

const SIDE_NAMES: Record<Side, string> = { left: 'Left', top: 'Top', right: 'Right', bottom: 'Bottom' };

/** Which part of the picture, and how much around it: by ratio, by size, by free room on a side. */
export function SizePart({ frame, photo, isUnchanged }: FrameOutlook) {
  const { rect } = frame;
  const setting = useFrameSetting(frame);
  const set = (next: Rect): void => setting.set({ rect: next });
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <RatioFields rect={rect} onChange={set} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <SideField label="Width" value={rect.width} onChange={(width) => set(resized(rect, width, rect.height))} />
        <SideField label="Height" value={rect.height} onChange={(height) => set(resized(rect, rect.width, height))} />
      </Box>
      <FreeRoom frame={frame} photo={photo} onChange={set} />
      <Button disabled={isUnchanged} onClick={() => set(wholeOf(photo))}>
        The whole photo again
      </Button>
      <Typography variant="caption" color="text.secondary">
        Drag the frame by its edges; it may reach past the photo. Shift takes the opposite side along, Alt leaves the
        photo’s edges out of account.
      </Typography>
    </Box>
  );
}

function RatioFields({ rect, onChange }: { rect: Rect; onChange: (rect: Rect) => void }) {
  const dispatch = useAppDispatch();
  const locked = useAppSelector((state) => state.bench.frameRatio);
  const [how, setHow] = useState<'widen' | 'cut'>('widen');
  const [own, setOwn] = useState('');
  const isWide = locked !== undefined ? locked > 1 : rect.width > rect.height;
  // Trying one ratio after the other, each is reached from the frame of before the first.
  const [reached, setReached] = useState<{ from: Rect; to: Rect }>();
  const choose = (ratio: number | undefined, way = how): void => {
    dispatch(benchActions.ratioLocked(ratio));
    if (ratio === undefined) return;
    const from = reached && sameRect(reached.to, rect) ? reached.from : rect;
    const to = withRatio(from, ratio, way);
    setReached({ from, to });
    onChange(to);
  };
  const turned = (ratio: number): number => (isWide ? 1 / ratio : ratio);
  const matches = (ratio: number): boolean => locked !== undefined && Math.abs(locked / turned(ratio) - 1) < 1e-3;
  const chosen = RATIOS.find(({ ratio }) => matches(ratio))?.label ?? (locked === undefined ? 'Free' : 'Own');
  const nameOf = (label: string): string =>
    isWide && label.includes(':') ? label.split(':').reverse().join(':') : label;
  const ownRatio = parseRatio(own);
  return (
    <>
      <ToggleButtonGroup
        exclusive
        value={chosen}
        aria-label="Ratio"
        sx={choiceGrid(3)}
        onChange={(_, label: string | null) => {
          const found = RATIOS.find((candidate) => candidate.label === label);
          if (found) choose(turned(found.ratio));
          else if (label === 'Free') choose(undefined);
        }}
      >
        <ToggleButton value="Free">Free</ToggleButton>
        {RATIOS.map(({ label }) => (
          <ToggleButton key={label} value={label}>
            {nameOf(label)}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, alignItems: 'start' }}>
        <TextField
          size="small"
          label="Own ratio, like 7:3"
          value={own}
          error={own !== '' && ownRatio === undefined}
          helperText={
            own !== '' && ownRatio === undefined ? 'Give two numbers like 7:3, from 1:20 to 20:1.' : undefined
          }
          onChange={(event) => setOwn(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && ownRatio && choose(ownRatio)}
          onBlur={() => ownRatio && choose(ownRatio)}
        />
        <Button disabled={locked === undefined || locked === 1} onClick={() => locked && choose(1 / locked)}>
          Swap
        </Button>
      </Box>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={how}
        aria-label="How the ratio is reached"
        onChange={(_, way: 'widen' | 'cut' | null) => {
          if (!way) return;
          setHow(way);
          if (locked !== undefined) choose(locked, way);
        }}
      >
        <ToggleButton value="widen">Widen to it</ToggleButton>
        <ToggleButton value="cut">Cut to it</ToggleButton>
      </ToggleButtonGroup>
    </>
  );
}

interface FreeRoomProps extends Pick<FrameOutlook, 'frame' | 'photo'> {
  onChange: (rect: Rect) => void;
}

/** Room for text and the like: the frame is widened until it takes so much of the picture. */
function FreeRoom({ frame, photo, onChange }: FreeRoomProps) {
  const { desk } = useBenchParts();
  const [share, setShare] = useState(30);
  const [onThird, setOnThird] = useState(false);
  const widen = async (side: Side): Promise<void> => {
    const seen = onThird ? await desk.firstFixation() : undefined;
    const subject = seen && applyHomography(uprightHomography(frame, photo), seen.x, seen.y);
    onChange(withRoom(frame.rect, side, share / 100, subject));
  };
  return (
    <Box>
      <PxSlider label="Free room" value={share} min={5} max={70} unit="%" onChange={setShare} />
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 0.5, mt: 0.5 }}>
        {SIDES.map((side) => (
          <Button key={side} size="small" aria-label={`Free room on the ${side}`} onClick={() => void widen(side)}>
            {SIDE_NAMES[side]}
          </Button>
        ))}
      </Box>
      <FormControlLabel
        control={<Switch size="small" checked={onThird} onChange={(_, on) => setOnThird(on)} />}
        label="Put the eye-catcher on the opposite third"
        slotProps={{ typography: { variant: 'caption' } }}
      />
    </Box>
  );
}

const sameRect = (a: Rect, b: Rect): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

/** Of another size, the middle staying where it is. */
const resized = (rect: Rect, width: number, height: number): Rect => ({
  x: Math.round(rect.x + (rect.width - width) / 2),
  y: Math.round(rect.y + (rect.height - height) / 2),
  width,
  height,
});
