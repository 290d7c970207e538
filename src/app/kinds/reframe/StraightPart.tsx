import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { AS_TAKEN, isAsTaken, uprightCorners } from '../../../core/geometry/frameGeometry.ts';
import { boundsOfPoints } from '../../../core/image/rect.ts';
import { largestRectInside } from '../../../core/geometry/rectInside.ts';
import { inflate, type Rect } from '../../../core/image/rect.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useBenchParts } from '../../features/bench/benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import type { FrameOutlook } from './useFrameDraft.ts';
import { useFrameSetting } from './useFrameSetting.ts';

const DEGREE = Math.PI / 180;
const ANGLES = [
  { name: 'turn', label: 'Turn', most: 20 },
  { name: 'pitch', label: 'Tilt', most: 40 },
  { name: 'yaw', label: 'Aside', most: 40 },
] as const;
const inDegrees = (radians: number): number => Math.round((radians / DEGREE) * 10) / 10;

/** Setting the photo straight: by sliders, by lines drawn on it, by the lines in it; and what becomes of the corners. */
export function StraightPart({ frame, photo }: FrameOutlook) {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const lineWanted = useAppSelector((state) => state.bench.lineWanted);
  const lines = useAppSelector((state) => state.bench.lines);
  const [said, setSaid] = useState('');
  const [looking, setLooking] = useState(false);
  const { set: once, slide: set, settle } = useFrameSetting(frame);
  const setRect = (rect: Rect): void => once({ rect });
  const propose = async (what: 'level' | 'square'): Promise<void> => {
    setLooking(true);
    setSaid('');
    try {
      const found = await desk.proposeUpright();
      if (what === 'level' && found.level !== undefined) {
        once({ ...AS_TAKEN, turn: found.level });
        setSaid(`Turned by ${inDegrees(found.level)} degrees.`);
      } else if (what === 'square' && found.square) {
        once(found.square);
        setSaid('Upright lines stand upright now.');
      } else {
        setSaid('The photo has too few straight lines to go by; draw one along what should be level or upright.');
      }
    } finally {
      setLooking(false);
    }
  };
  const corners = uprightCorners(frame, photo);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <Button disabled={looking} onClick={() => void propose('level')}>
          Level by its lines
        </Button>
        <Button disabled={looking} onClick={() => void propose('square')}>
          Square up by its lines
        </Button>
      </Box>
      <Button
        variant={lineWanted ? 'contained' : 'outlined'}
        aria-pressed={lineWanted}
        onClick={() => dispatch(benchActions.lineAsked(!lineWanted))}
      >
        {lineWanted ? 'Lines are drawn' : 'Draw lines to go by'}
      </Button>
      <Typography variant="caption" color="text.secondary" role="status">
        {looking
          ? 'Looking for lines'
          : lineWanted
            ? lines.length === 0
              ? 'Draw along what should be level or upright. One line levels; two of a kind square up.'
              : `${lines.length === 1 ? 'One line' : `${lines.length} lines`} drawn. One levels, two of a kind square up.`
            : said}
      </Typography>
      {ANGLES.map(({ name, label, most }) => (
        <PxSlider
          key={name}
          label={label}
          value={inDegrees(frame[name])}
          min={-most}
          max={most}
          step={0.1}
          unit="°"
          onChange={(degrees) => set({ [name]: degrees * DEGREE })}
          onSettled={settle}
        />
      ))}
      {!isAsTaken(frame) && (
        <>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            <Button
              onClick={() => {
                const inside = largestRectInside(corners, frame.rect.width / frame.rect.height);
                // A px less all around: the outermost is only partly there.
                if (inside && inside.width > 4 && inside.height > 4) setRect(inflate(inside, -1));
              }}
            >
              Cut off the corners
            </Button>
            <Button onClick={() => setRect(boundsOfPoints(corners))}>Keep everything</Button>
          </Box>
          <Button onClick={() => once(AS_TAKEN)}>As it was taken</Button>
        </>
      )}
    </Box>
  );
}
