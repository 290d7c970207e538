import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState, useSyncExternalStore } from 'react';
import { isWhole } from '../../../../core/sphere/placement.ts';
import type { Pole } from '../../../../operations/sphere/gapAround.ts';
import { useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { TroubleNote } from '../card/TroubleNote.tsx';
import { PxSlider } from '../card/PxSlider.tsx';
import type { AroundProps } from '../kindView.ts';
import { describeDirection, NARROWEST, turned, WIDEST, type Direction } from './looking.ts';

interface AroundCardProps extends AroundProps {
  onWork: () => void;
}

const PLACES: readonly { label: string; to: Partial<Direction> }[] = [
  { label: 'Straight down', to: { pitch: -90 } },
  { label: 'Straight up', to: { pitch: 90 } },
  { label: 'Ahead', to: { yaw: 0, pitch: 0 } },
  { label: 'Where the edges meet', to: { yaw: 180, pitch: 0 } },
];

const GAPS: readonly { pole: Pole; label: string; nothing: string }[] = [
  { pole: 'zenith', label: 'Rebuild above', nothing: 'Nothing is missing above.' },
  { pole: 'nadir', label: 'Rebuild below', nothing: 'Nothing is missing below.' },
];

/** Where one looks, the way into the work there, and what concerns the whole sphere. */
export function AroundCard({ look, lineWanted, onLineWanted, onWork }: AroundCardProps) {
  const direction = useSyncExternalStore(look.subscribeSettled, look.settled);
  const turnTo = (change: Partial<Direction>): void => look.set(turned(look.get(), change));
  const { desk, kinds } = useBenchParts();
  const source = useAppSelector((state) => state.bench.project!.source);
  const { isTurning } = useDeskView();
  const [said, setSaid] = useState('');
  const isPart = source.sphere && !isWhole(source.sphere);
  const rebuild = async ({ pole, nothing }: (typeof GAPS)[number]): Promise<void> => {
    setSaid('Looking for what is missing');
    const found = await desk.gapView(pole);
    setSaid(found === false ? nothing : '');
  };
  return (
    <Box
      component="aside"
      aria-label="Look around"
      sx={{
        width: 328,
        flexShrink: 0,
        overflowY: 'auto',
        bgcolor: 'background.paper',
        borderLeft: 1,
        borderColor: 'divider',
        '& > section': {
          p: 2,
          display: 'flex',
          flexDirection: 'column',
          gap: 1.25,
          borderBottom: 1,
          borderColor: 'divider',
        },
      }}
    >
      <TroubleNote />
      <Box component="section" aria-label="Direction">
        <Typography component="h2" variant="h2">
          Where you look
        </Typography>
        <Typography role="status" variant="body2" color="text.secondary">
          {describeDirection(direction)}
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          {PLACES.map(({ label, to }) => (
            <Button key={label} onClick={() => turnTo(to)} sx={{ lineHeight: 1.2 }}>
              {label}
            </Button>
          ))}
        </Box>
        <PxSlider
          label="Round"
          unit="°"
          value={Math.round(direction.yaw)}
          min={-180}
          max={180}
          onChange={(yaw) => turnTo({ yaw })}
        />
        <PxSlider
          label="Up or down"
          unit="°"
          value={Math.round(direction.pitch)}
          min={-90}
          max={90}
          onChange={(pitch) => turnTo({ pitch })}
        />
        <PxSlider
          label="Angle of view"
          unit="°"
          value={Math.round(direction.fov)}
          min={NARROWEST}
          max={WIDEST}
          onChange={(fov) => turnTo({ fov })}
        />
        <Button variant="contained" color="primary" onClick={onWork} disabled={isTurning}>
          {isTurning ? 'Turning to this view' : 'Work in this view'}
        </Button>
        <Typography variant="caption" color="text.secondary">
          In the view everything is marked and rebuilt as on a flat photo. What you use there is written back to the
          sphere; the rest of it stays as it is.
        </Typography>
      </Box>
      {isPart && (
        <Box component="section" aria-label="What is missing">
          <Typography component="h2" variant="h2">
            What is missing
          </Typography>
          <Typography variant="body2" color="text.secondary">
            The photo shows a part of the sphere. Above and below it can be rebuilt up to the poles.
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
            {GAPS.map((gap) => (
              <Button key={gap.pole} onClick={() => void rebuild(gap)}>
                {gap.label}
              </Button>
            ))}
          </Box>
          <Typography role="status" variant="caption" color="text.secondary">
            {said}
          </Typography>
        </Box>
      )}
      {kinds.map(({ type, around }) => around && <around.Section key={type} {...{ look, lineWanted, onLineWanted }} />)}
    </Box>
  );
}
