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
import { benchActions, selectPhotoState } from '../benchSlice.ts';
import type { MarkTool } from '../benchState.ts';
import { isMarked } from '../draft.ts';
import { AreasLine } from './AreasLine.tsx';
import { choiceGrid } from './choiceGrid.ts';
import { BrushFields } from './BrushFields.tsx';
import { KeptMarks } from './KeptMarks.tsx';
import { MarkActions } from './MarkActions.tsx';
import { OutlineFields } from './OutlineFields.tsx';
import { PaintingLine } from './PaintingLine.tsx';
import { ReachFields } from './ReachFields.tsx';

interface Tool {
  tool: MarkTool;
  label: string;
  key: string;
  /** What to do with it, said while nothing is marked. */
  hint: string;
}

export const TOOLS: readonly Tool[] = [
  {
    tool: 'lasso',
    label: 'Lasso',
    key: 'L',
    hint: 'Draw loosely around what should change, its shadow included. Leave a little room around it.',
  },
  { tool: 'corners', label: 'Corners', key: 'C', hint: 'Touch corner after corner; touch the first again to close.' },
  {
    tool: 'edges',
    label: 'Along edges',
    key: 'A',
    hint: 'Touch points around a thing: between them the outline clings to its edge. Touch the first again to close.',
  },
  { tool: 'box', label: 'Box', key: 'B', hint: 'Pull up a box around what should change.' },
  { tool: 'ellipse', label: 'Ellipse', key: 'E', hint: 'Pull up an ellipse around what should change.' },
  {
    tool: 'brush',
    label: 'Brush',
    key: 'P',
    hint: 'Paint over what should change, its shadow included. A little too much does no harm.',
  },
  { tool: 'reach', label: 'Colour', key: 'R', hint: 'Touch a colour: what is like it gets marked.' },
  {
    tool: 'subject',
    label: 'Subject',
    key: 'J',
    hint: 'Draw loosely around a thing: its own outline is found inside.',
  },
  {
    tool: 'strokeClear',
    label: 'Stroke away',
    key: 'W',
    hint: 'Paint over a cable, a pole, a speck: it is cleared when you lift the pen. Stroke again for another take.',
  },
];

const hasBrush = (tool: MarkTool): boolean => tool === 'brush' || tool === 'strokeClear';

const COMBINES: { combine: Combine; label: string; hint: string }[] = [
  { combine: 'startOver', label: 'Start over', hint: 'What you draw replaces the mark' },
  { combine: 'also', label: 'Also', hint: 'What you draw is added (hold Shift)' },
  { combine: 'without', label: 'Without', hint: 'What you draw is taken away (hold Alt)' },
  { combine: 'onlyBoth', label: 'Only both', hint: 'What is in both stays (hold Shift and Alt)' },
];

/** How the mark is drawn, and its outline as a whole. */
export function MarkPart() {
  const dispatch = useAppDispatch();
  const { draft, tool, combine, paintTarget } = useAppSelector(selectPhotoState, shallowEqual);
  const { lastMark } = useAppSelector((state) => state.bench.project!);
  const { outline } = useDeskView();
  const marked = isMarked(draft);
  // A stroke that is cleared when it is released joins no mark.
  const clearsAtOnce = tool === 'strokeClear' && paintTarget === 'mark';
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        value={tool}
        aria-label="Mark with"
        sx={choiceGrid(3)}
        onChange={(_, next: MarkTool | null) => next && dispatch(benchActions.toolChosen(next))}
      >
        {TOOLS.map((item) => (
          <ToggleButton key={item.tool} value={item.tool} title={`Key ${item.key}`}>
            {item.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <PaintingLine />
      {hasBrush(tool) && <BrushFields />}
      {tool === 'reach' && <ReachFields />}
      {!clearsAtOnce && (
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
      )}
      {marked ? (
        <>
          <OutlineFields />
          <MarkActions />
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
            {TOOLS.find((item) => item.tool === tool)!.hint}
          </Typography>
          {lastMark && (
            <Tooltip title="Key M">
              <Button size="small" sx={{ mt: 1 }} onClick={() => dispatch(benchActions.lastMarkBroughtBack())}>
                Bring back the last mark
              </Button>
            </Tooltip>
          )}
          <KeptMarks />
        </Box>
      )}
    </Box>
  );
}
