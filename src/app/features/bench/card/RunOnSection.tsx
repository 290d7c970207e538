import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import type { KeyboardEvent } from 'react';
import { fingerprint } from '../../../../operations/draft.ts';
import { MOST_LINES, type RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { useDeskView } from '../benchContext.ts';
import { ARROWS } from '../photo/usePhotoKeys.ts';
import { handlesOf, lineOverMark, linesInSight, widened, withHandle, withLine, withNew } from '../runOn.ts';
import { PointButton } from './PointButton.tsx';
import { PxSlider } from './PxSlider.tsx';

/** Lines that run on through the place: seen, switched off, moved by their points, drawn anew. */
export function RunOnSection() {
  const dispatch = useAppDispatch();
  const desk = useDeskView();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const { runOnShown: shown, runOnWanted: isDrawing, runOnInHand: inHand } = useAppSelector((state) => state.bench);
  const lines = linesInSight(draft, desk);
  const set = (next: RunOnParams[] | undefined): void => void dispatch(benchActions.runOnSet(next));
  const begin = (next: RunOnParams[] | undefined): void => {
    dispatch(benchActions.gestureEnded());
    set(next);
  };
  return (
    <Box role="group" aria-label="Run-on lines">
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="body2">Run-on lines</Typography>
        <Typography variant="caption" aria-live="polite">
          {headingOf(lines.length, draft.runOn !== undefined, shown && desk.sketch?.of !== fingerprint(draft))}
        </Typography>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p">
        Poles, joints, kerbs, ridges that go on through the place
      </Typography>
      <FormControlLabel
        control={<Switch size="small" checked={shown} onChange={() => dispatch(benchActions.runOnShownToggled())} />}
        label="Show them on the photo"
        slotProps={{ typography: { variant: 'body2' } }}
      />
      {shown && lines.length > 0 && (
        <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 240, overflowY: 'auto' }}>
          {lines.map((line, index) => (
            <Box component="li" key={index}>
              <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
                <FormControlLabel
                  control={
                    <Switch
                      size="small"
                      checked={line.on}
                      onChange={() => begin(withLine(lines, index, (own) => ({ ...own, on: !own.on })))}
                    />
                  }
                  label={`Line ${index + 1}`}
                  slotProps={{ typography: { variant: 'body2' } }}
                />
                <Button
                  size="small"
                  aria-expanded={inHand === index}
                  aria-label={`Change line ${index + 1}`}
                  onClick={() => dispatch(benchActions.runOnTaken(inHand === index ? undefined : index))}
                >
                  {inHand === index ? 'Done' : 'Change'}
                </Button>
              </Box>
              {inHand === index && (
                <LineFields
                  line={line}
                  index={index}
                  widestPx={
                    desk.outline
                      ? Math.max(20, Math.round(0.5 * Math.max(desk.outline.box.width, desk.outline.box.height)))
                      : 200
                  }
                  onChange={(change) => set(withLine(lines, index, change))}
                  onMove={(point, at) => set(withHandle(lines, { line: index, point, isNew: false }, at))}
                  onBend={() => {
                    const [between] = handlesOf(line, index).filter(({ isNew }) => isNew);
                    if (between) begin(withHandle(lines, between, between.at));
                  }}
                  onRemove={() => begin(lines.toSpliced(index, 1))}
                />
              )}
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button
          size="small"
          aria-pressed={isDrawing}
          variant={isDrawing ? 'contained' : 'text'}
          disabled={lines.length >= MOST_LINES}
          onClick={() => dispatch(benchActions.runOnAsked(!isDrawing))}
        >
          {isDrawing ? 'Lines are drawn' : 'Draw a line'}
        </Button>
        <Button
          size="small"
          disabled={!desk.outline || lines.length >= MOST_LINES}
          onClick={() => {
            begin(withNew(lines, lineOverMark(desk.outline!.box)));
            if (!shown) dispatch(benchActions.runOnShownToggled());
            dispatch(benchActions.runOnTaken(Math.min(lines.length, MOST_LINES - 1)));
          }}
        >
          Add one to move
        </Button>
        {draft.runOn && (
          <Button size="small" onClick={() => begin(undefined)}>
            Back to those found
          </Button>
        )}
      </Box>
      {isDrawing && (
        <Typography variant="caption" color="text.secondary" component="p">
          Draw where it shall run, from rim to rim, or let it end inside the mark. Straight or bent, as your hand goes.
        </Typography>
      )}
    </Box>
  );
}

function headingOf(count: number, isSet: boolean, isLooking: boolean): string {
  if (isSet) return 'Set by hand';
  if (count > 0) return `${count} found`;
  return isLooking ? 'Found with the takes' : 'None found';
}

interface LineFieldsProps {
  line: RunOnParams;
  index: number;
  widestPx: number;
  onChange: (change: (line: RunOnParams) => RunOnParams) => void;
  onMove: (point: number, at: { x: number; y: number }) => void;
  onBend: () => void;
  onRemove: () => void;
}

/** One line's points, moved by the arrow keys, its width, and what else can be done with it. */
function LineFields({ line, index, widestPx, onChange, onMove, onBend, onRemove }: LineFieldsProps) {
  const dispatch = useAppDispatch();
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  const onKey = (event: KeyboardEvent, point: number): void => {
    const direction = ARROWS[event.key];
    const { x, y } = line.points[point]!;
    const step = event.shiftKey ? 20 : 2;
    if (direction) onMove(point, { x: x + direction.x * step, y: y + direction.y * step });
    else if ((event.key === 'Delete' || event.key === 'Backspace') && line.points.length > 2) {
      settle();
      onChange((own) => ({ ...own, points: own.points.toSpliced(point, 1) }));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box sx={{ pl: 1, pb: 0.5 }}>
      <Box
        role="group"
        aria-label={`Points of line ${index + 1}, moved with the arrow keys`}
        sx={{ display: 'flex', flexWrap: 'wrap' }}
      >
        {line.points.map((_, point) => (
          <PointButton
            key={point}
            number={point + 1}
            label={`Line ${index + 1}, point ${point + 1}`}
            title="Arrow keys move this point; Delete takes it out"
            onKeyDown={(event) => onKey(event, point)}
            onBlur={settle}
          />
        ))}
      </Box>
      <PxSlider
        label="Width"
        value={Math.round((line.widthsPx[0] + line.widthsPx[1]) / 2)}
        min={0}
        max={widestPx}
        onChange={(widthPx) => onChange((own) => widened(own, widthPx))}
        onSettled={settle}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button size="small" onClick={onBend}>
          Add a point
        </Button>
        <Button size="small" onClick={onRemove}>
          Remove
        </Button>
      </Box>
    </Box>
  );
}
