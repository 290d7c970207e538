import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import type { Combine } from '../../../../core/mask/combine.ts';
import { shallowEqual } from 'react-redux';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';
import { benchActions, selectPhotoState, type MarkTool } from '../benchSlice.ts';
import { isMarked } from '../draft.ts';
import { AreasLine } from './AreasLine.tsx';
import { PxSlider } from './PxSlider.tsx';

const TOOLS: { tool: MarkTool; label: string; key: string }[] = [
  { tool: 'lasso', label: 'Lasso', key: 'L' },
  { tool: 'brush', label: 'Brush', key: 'P' },
];

const COMBINES: { combine: Combine; label: string; hint: string }[] = [
  { combine: 'startOver', label: 'Start over', hint: 'What you draw replaces the mark' },
  { combine: 'also', label: 'Also', hint: 'What you draw is added (hold Shift)' },
  { combine: 'without', label: 'Without', hint: 'What you draw is taken away (hold Alt)' },
];

/** How the mark is drawn, and its outline as a whole. */
export function MarkPart() {
  const dispatch = useAppDispatch();
  const { draft, tool, combine, brushRadiusPx, brushHardness } = useAppSelector(selectPhotoState, shallowEqual);
  const { source, lastMark } = useAppSelector((state) => state.bench.project!);
  const { outline } = useDeskView();
  const marked = isMarked(draft);
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  const largestBrush = Math.round(Math.max(source.width, source.height) / 8);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={tool}
        aria-label="Mark with"
        onChange={(_, next: MarkTool | null) => next && dispatch(benchActions.toolChosen(next))}
      >
        {TOOLS.map((item) => (
          <ToggleButton key={item.tool} value={item.tool} title={`Key ${item.key}`}>
            {item.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {tool === 'brush' && (
        <Box>
          <PxSlider
            label="Brush size"
            value={brushRadiusPx * 2}
            min={2}
            max={largestBrush}
            onChange={(value) => dispatch(benchActions.brushResized(value / 2))}
          />
          <PxSlider
            label="Hardness"
            value={Math.round(brushHardness * 100)}
            min={0}
            max={100}
            unit="%"
            onChange={(value) => dispatch(benchActions.brushHardened(value / 100))}
          />
        </Box>
      )}
      <ToggleButtonGroup
        exclusive
        fullWidth
        value={combine}
        aria-label="What you draw next"
        onChange={(_, next: Combine | null) => next && dispatch(benchActions.combineChosen(next))}
      >
        {COMBINES.map((item) => (
          <ToggleButton key={item.combine} value={item.combine} title={item.hint} sx={{ px: 0.5 }}>
            {item.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {marked ? (
        <>
          <Box>
            <PxSlider
              label="Grow"
              value={draft.mark.growPx}
              min={-60}
              max={60}
              onChange={(growPx) => dispatch(benchActions.markAdjusted({ growPx }))}
              onSettled={settle}
            />
            <PxSlider
              label="Smooth"
              value={draft.mark.smoothPx}
              min={0}
              max={60}
              onChange={(smoothPx) => dispatch(benchActions.markAdjusted({ smoothPx }))}
              onSettled={settle}
            />
          </Box>
          <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
            <Typography variant="caption" color="text.secondary">
              {outline ? `${Math.round(outline.areaPx).toLocaleString('en')} px marked` : 'Measuring'}
            </Typography>
            <Button size="small" onClick={() => dispatch(benchActions.markDropped())}>
              Drop the mark
            </Button>
          </Box>
          <AreasLine />
        </>
      ) : (
        <Box>
          <Typography variant="body2" color="text.secondary">
            {tool === 'lasso'
              ? 'Draw loosely around what should change, its shadow included. Leave a little room around it.'
              : 'Paint over what should change, its shadow included. A little too much does no harm.'}
          </Typography>
          {lastMark && (
            <Tooltip title="Key M">
              <Button size="small" sx={{ mt: 1 }} onClick={() => dispatch(benchActions.lastMarkBroughtBack())}>
                Bring back the last mark
              </Button>
            </Tooltip>
          )}
        </Box>
      )}
    </Box>
  );
}
