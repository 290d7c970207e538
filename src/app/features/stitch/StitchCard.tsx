import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { inverseRotation, NO_TURN, turnDirection } from '../../../core/panorama/camera.ts';
import { directionAt } from '../../../core/panorama/projection.ts';
import type { Layout, ProjectionChoice } from '../../../core/panorama/layOut.ts';
import type { PanoramaSettings } from '../../../engine/panoramaPlan.ts';
import type { StitchReport } from '../../../engine/stitchReport.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { CardPart } from '../bench/card/CardPart.tsx';
import { PxSlider } from '../bench/card/PxSlider.tsx';
import { SideField } from '../bench/card/SideField.tsx';
import { resizeCrop } from './cropRect.ts';
import { OverlapGraph } from './OverlapGraph.tsx';
import { stitchActions } from './stitchSlice.ts';
import type { PanoramaShown } from './stitchDesk.ts';

const PROJECTIONS: readonly { kind: ProjectionChoice; label: string }[] = [
  { kind: 'auto', label: 'By itself' },
  { kind: 'planar', label: 'Planar' },
  { kind: 'cylindrical', label: 'Cylindrical' },
  { kind: 'spherical', label: 'Spherical' },
];

const isTurned = ({ turn }: PanoramaSettings): boolean => turn.some((value, i) => value !== NO_TURN[i]);

type PartName = 'frames' | 'projection' | 'level' | 'seams' | 'crop';

/** The panorama, read from top to bottom: which frames belong together, how it is laid out, how level, where the seams are, what is kept. */
interface StitchCardProps {
  report: StitchReport;
  shown: PanoramaShown;
  onKeepOnly: (ids: readonly string[]) => void;
}

export function StitchCard({ report, shown, onKeepOnly }: StitchCardProps) {
  const { settings, crop } = useAppSelector((state) => state.stitch);
  const [open, setOpen] = useState<Record<PartName, boolean>>({
    frames: true,
    projection: true,
    level: true,
    seams: false,
    crop: true,
  });
  const part = (name: PartName) => ({
    open: open[name],
    onToggle: () => setOpen((now) => ({ ...now, [name]: !now[name] })),
  });
  const { width, height } = crop ?? shown.layout.bounds;
  return (
    <>
      <CardPart
        number={1}
        title="Frames"
        line={`${report.order.length} of ${report.frames.length} in place`}
        {...part('frames')}
      >
        <OverlapGraph report={report} />
        <GroupAdvice report={report} onKeepOnly={onKeepOnly} />
      </CardPart>
      <CardPart number={2} title="Projection" line={shown.layout.projection.kind} {...part('projection')}>
        <ProjectionPart layout={shown.layout} />
      </CardPart>
      <CardPart number={3} title="Level" line={isTurned(settings) ? 'By a line' : 'By itself'} {...part('level')}>
        <LevelPart />
      </CardPart>
      <CardPart
        number={4}
        title="Seams"
        line={settings.pulled.length > 0 ? `${settings.pulled.length} by hand` : 'By themselves'}
        {...part('seams')}
      >
        <SeamsPart report={report} shown={shown} />
      </CardPart>
      <CardPart number={5} title="Crop" line={`${width} × ${height} px`} {...part('crop')}>
        <CropPart shown={shown} />
      </CardPart>
    </>
  );
}

/** A second group of frames that hang together, apart from the first. */
function GroupAdvice({ report, onKeepOnly }: Pick<StitchCardProps, 'report' | 'onKeepOnly'>) {
  const frames = useAppSelector((state) => state.stitch.frames);
  const members = report.frames.flatMap(({ group }, place) => (group === 1 ? [place] : []));
  if (members.length < 2) return null;
  return (
    <Alert severity="info" variant="outlined" sx={{ color: 'text.primary', mt: 1 }}>
      Frames {members.map((place) => place + 1).join(', ')} hang together too, apart from the others.
      <Button size="small" sx={{ mt: 1 }} onClick={() => onKeepOnly(members.map((place) => frames[place]!.id))}>
        Stitch only these
      </Button>
    </Alert>
  );
}

function ProjectionPart({ layout }: { layout: Layout }) {
  const dispatch = useAppDispatch();
  const choice = useAppSelector((state) => state.stitch.settings.projection);
  const across = Math.round(layout.viewDeg.across);
  const reasons: Record<Layout['projection']['kind'], string> = {
    planar: `${across}° across: narrow enough to keep every straight line straight.`,
    cylindrical: `${across}° across: rolled out, upright lines stay straight.`,
    spherical: `${across}° across, ${Math.round(layout.viewDeg.down)}° up and down: longitude by latitude, so that everything fits.`,
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={choice}
        aria-label="Projection"
        onChange={(_, kind: ProjectionChoice | null) => kind && dispatch(stitchActions.projectionChosen(kind))}
        sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr' }}
      >
        {PROJECTIONS.map(({ kind, label }) => (
          <ToggleButton key={kind} value={kind}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant="caption" color="text.secondary">
        {reasons[layout.projection.kind]}
      </Typography>
      {layout.closed && (
        <Typography variant="caption">
          These frames go all the way round, and the ends meet. Spherical and uncut, it opens as a 360° picture whose
          missing poles can be rebuilt.
        </Typography>
      )}
    </Box>
  );
}

function LevelPart() {
  const dispatch = useAppDispatch();
  const hand = useAppSelector((state) => state.stitch.hand);
  const canGoBack = useAppSelector((state) => isTurned(state.stitch.settings));
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Typography variant="caption" color="text.secondary">
        {hand === 'line'
          ? 'Draw along something that should be level or upright.'
          : 'The horizon is straightened by how the frames were held.'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <ToggleButton
          value="line"
          size="small"
          selected={hand === 'line'}
          onChange={() => dispatch(stitchActions.handChosen(hand === 'line' ? 'crop' : 'line'))}
        >
          Draw a line
        </ToggleButton>
        {canGoBack && <Button onClick={() => dispatch(stitchActions.turnDropped())}>As it was</Button>}
      </Box>
    </Box>
  );
}

function SeamsPart({ report, shown }: Pick<StitchCardProps, 'report' | 'shown'>) {
  const dispatch = useAppDispatch();
  const { hand, seamsShown, pulledFrame, pullRadiusPx, settings } = useAppSelector((state) => state.stitch);
  const isPulling = hand === 'pull';
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <FormControlLabel
        control={<Switch size="small" checked={seamsShown} onChange={() => dispatch(stitchActions.seamsToggled())} />}
        label="Show the seams"
      />
      <GhostList shown={shown} />
      <Typography variant="caption" color="text.secondary">
        Something moved between two frames? Choose the one that shows it as you want it, and paint over the place.
      </Typography>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={isPulling ? pulledFrame : null}
        aria-label="Pull a frame in front"
        onChange={(_, frame: number | null) => {
          dispatch(stitchActions.handChosen(frame === null ? 'crop' : 'pull'));
          if (frame !== null) dispatch(stitchActions.pulledFrameChosen(frame));
        }}
      >
        {report.order.map((frame) => (
          <ToggleButton key={frame} value={frame} aria-label={`Frame ${frame + 1} in front`} sx={{ minWidth: 40 }}>
            {frame + 1}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {isPulling && (
        <PxSlider
          label="Brush"
          value={pullRadiusPx}
          min={10}
          max={800}
          step={10}
          onChange={(value) => dispatch(stitchActions.pullResized(value))}
        />
      )}
      {settings.pulled.length > 0 && (
        <Button onClick={() => dispatch(stitchActions.pullsDropped())}>Reset the seams</Button>
      )}
    </Box>
  );
}

/** A pinned place is pulled with a brush of so much of the panorama's longer side. */
const PULL_SHARE = 0.03;

/** Places on the seams where frames show different things, and which of them is to be seen. */
function GhostList({ shown: { ghosts, layout } }: Pick<StitchCardProps, 'shown'>) {
  const dispatch = useAppDispatch();
  const turn = useAppSelector((state) => state.stitch.settings.turn);
  if (ghosts.length === 0) {
    return <Typography variant="caption">No ghosts: the frames agree along the seams.</Typography>;
  }
  const { projection, bounds } = layout;
  const pull = (frame: number, { x, y }: { x: number; y: number }): void => {
    const direction = turnDirection(directionAt(projection, x, y), inverseRotation(turn));
    const radiusRad = (PULL_SHARE * Math.max(bounds.width, bounds.height)) / projection.scale;
    dispatch(stitchActions.pulled({ frame, path: [direction], radiusRad }));
  };
  return (
    <Box component="ol" aria-label="Ghosts" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {ghosts.map((ghost, k) => (
        <Box component="li" key={k} sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Typography variant="caption" sx={{ flex: 1 }}>
            {k + 1}: something differs
          </Typography>
          {ghost.frames.map((frame) => (
            <Button key={frame} size="small" onClick={() => pull(frame, ghost)}>
              As in {frame + 1}
            </Button>
          ))}
        </Box>
      ))}
    </Box>
  );
}

function CropPart({ shown }: { shown: PanoramaShown }) {
  const dispatch = useAppDispatch();
  const crop = useAppSelector((state) => state.stitch.crop) ?? shown.layout.bounds;
  const set = (next: typeof crop | undefined): void => {
    dispatch(stitchActions.gestureEnded());
    dispatch(stitchActions.cropped(next));
    dispatch(stitchActions.gestureEnded());
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button size="small" sx={{ flex: 1 }} onClick={() => set(undefined)}>
          All there is
        </Button>
        <Button size="small" sx={{ flex: 1 }} onClick={() => set(shown.covered)}>
          Without gaps
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 0.5 }}>
        <SideField label="Width" value={crop.width} onChange={(width) => set(resizeCrop(crop, { width }))} />
        <SideField label="Height" value={crop.height} onChange={(height) => set(resizeCrop(crop, { height }))} />
      </Box>
      <Typography variant="caption" color="text.secondary">
        The crop may reach beyond the frames: what is vacant is marked on the Bench, and rebuilt there with takes.
      </Typography>
    </Box>
  );
}
