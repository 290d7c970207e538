import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { KeyboardEvent } from 'react';
import type { PlaneParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { planesInSight, planeOverMark, withCorner } from '../planes.ts';
import { PointButton } from './PointButton.tsx';
import { ARROWS } from '../photo/usePhotoKeys.ts';

const CORNERS = ['first', 'second', 'third', 'fourth'] as const;

/** The planes along which is rebuilt: seen, switched off, moved by their corners. */
export function PlanesSection({ found: foundWords }: { found?: string }) {
  const dispatch = useAppDispatch();
  const desk = useDeskView();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const shown = useAppSelector((state) => state.bench.planesShown);
  const planes = planesInSight(draft, desk.reports);
  const set = (next: PlaneParams[] | undefined): void => {
    dispatch(benchActions.planesSet(next));
  };
  const replace = (index: number, plane: PlaneParams): void => set(planes.map((p, k) => (k === index ? plane : p)));
  const onCornerKey = (event: KeyboardEvent, index: number, corner: number): void => {
    const direction = ARROWS[event.key];
    if (!direction) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 20 : 2;
    const { x, y } = planes[index]!.corners[corner]!;
    replace(index, withCorner(planes[index]!, corner, { x: x + direction.x * step, y: y + direction.y * step }));
  };
  const found = planes.length > 0 ? `${planes.length} found` : 'None found';
  const heading = draft.planes ? 'Set by hand' : (foundWords ?? found);
  return (
    <Box role="group" aria-label="Planes">
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="body2">Planes</Typography>
        <Typography variant="caption">
          {draft.takes.length > 0 || draft.planes ? heading : 'Found with the takes'}
        </Typography>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p">
        Ground, walls and boards that run on in perspective
      </Typography>
      {planes.map((plane, index) => (
        <Box key={index} sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
          <FormControlLabel
            control={
              <Switch
                size="small"
                checked={plane.on}
                onChange={() => {
                  dispatch(benchActions.gestureEnded());
                  replace(index, { ...plane, on: !plane.on });
                }}
              />
            }
            label={`Plane ${index + 1}`}
            slotProps={{ typography: { variant: 'body2' } }}
          />
          {shown && (
            <Box role="group" aria-label={`Corners of plane ${index + 1}, moved with the arrow keys`}>
              {CORNERS.map((name, corner) => (
                <PointButton
                  key={name}
                  number={corner + 1}
                  label={`Plane ${index + 1}, ${name} corner`}
                  title="Arrow keys move this corner"
                  onKeyDown={(event) => onCornerKey(event, index, corner)}
                  onBlur={() => dispatch(benchActions.gestureEnded())}
                />
              ))}
            </Box>
          )}
        </Box>
      ))}
      <FormControlLabel
        control={<Switch size="small" checked={shown} onChange={() => dispatch(benchActions.planesShownToggled())} />}
        label="Show them on the photo"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button
          size="small"
          disabled={!desk.outline || planes.length >= 8}
          onClick={() => {
            dispatch(benchActions.gestureEnded());
            set([...planes, planeOverMark(desk.outline!.box)]);
            if (!shown) dispatch(benchActions.planesShownToggled());
          }}
        >
          Add a plane
        </Button>
        {draft.planes && (
          <Button size="small" onClick={() => set(undefined)}>
            Back to those found
          </Button>
        )}
      </Box>
    </Box>
  );
}
