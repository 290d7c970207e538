import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import type { Combine } from '../../../../core/mask/combine.ts';
import { shallowEqual } from 'react-redux';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions, selectPhotoState } from '../../../state/benchSlice.ts';
import type { MarkTool } from '../../../state/benchState.ts';
import { isMarked } from '../../../../operations/draftBase.ts';
import { AreasLine } from './AreasLine.tsx';
import { choiceGrid } from './choiceGrid.ts';
import { BrushFields } from './BrushFields.tsx';
import { KeptMarks } from './KeptMarks.tsx';
import { MarkActions } from './MarkActions.tsx';
import { OutlineFields } from './OutlineFields.tsx';
import { PaintingLine } from './PaintingLine.tsx';
import { ReachFields } from './ReachFields.tsx';
import { hasBrush, isKindTool, toolsOf } from './tools.ts';

const COMBINES: { combine: Combine; label: string; hint: string }[] = [
  { combine: 'startOver', label: 'New', hint: 'What you draw replaces the mark' },
  { combine: 'also', label: 'Add', hint: 'What you draw is added to the mark (hold Shift)' },
  { combine: 'without', label: 'Subtract', hint: 'What you draw is taken out of the mark (hold Alt)' },
  {
    combine: 'onlyBoth',
    label: 'Intersect',
    hint: 'Only what lies both in the mark and in what you draw stays (hold Shift and Alt)',
  },
];

/** How the mark is drawn, and its outline as a whole. */
export function MarkPart() {
  const dispatch = useAppDispatch();
  const { draft, tool, combine, paintTarget } = useAppSelector(selectPhotoState, shallowEqual);
  const lastMark = useAppSelector((state) => state.bench.project!.lastMark);
  const { outline } = useDeskView();
  const tools = toolsOf(useBenchParts().kinds);
  const marked = isMarked(draft);
  const joinsNoMark = isKindTool(tool) && paintTarget === 'mark';
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <ToggleButtonGroup
        exclusive
        value={tool}
        aria-label="Mark with"
        sx={choiceGrid(3)}
        onChange={(_, next: MarkTool | null) => next && dispatch(benchActions.toolChosen(next))}
      >
        {tools.map((item) => (
          <ToggleButton key={item.tool} value={item.tool} title={`Key ${item.key}`}>
            {item.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <PaintingLine />
      {hasBrush(tool) && <BrushFields />}
      {tool === 'reach' && <ReachFields />}
      {!joinsNoMark && (
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
            {tools.find((item) => item.tool === tool)!.hint}
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
