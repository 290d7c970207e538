import Box from '@mui/material/Box';
import { shallowEqual } from 'react-redux';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions, selectPhotoState } from '../../../state/benchSlice.ts';
import { largestBrushRadius } from '../../../state/benchState.ts';
import { PxSlider } from './PxSlider.tsx';

/** The brush: how large, how hard, and how strongly it marks. Stroking away always marks wholly. */
export function BrushFields() {
  const dispatch = useAppDispatch();
  const { tool, brushRadiusPx, brushHardness, brushIntensity } = useAppSelector(selectPhotoState, shallowEqual);
  const source = useAppSelector((state) => state.bench.project!.source);
  return (
    <Box>
      <PxSlider
        label="Brush size"
        value={brushRadiusPx * 2}
        min={2}
        max={2 * largestBrushRadius(source)}
        onChange={(value) => dispatch(benchActions.brushResized(value / 2))}
      />
      {tool === 'brush' && (
        <>
          <PxSlider
            label="Hardness"
            value={Math.round(brushHardness * 100)}
            min={0}
            max={100}
            unit="%"
            onChange={(value) => dispatch(benchActions.brushHardened(value / 100))}
          />
          <PxSlider
            label="Intensity"
            value={Math.round(brushIntensity * 100)}
            min={5}
            max={100}
            step={5}
            unit="%"
            onChange={(value) => dispatch(benchActions.brushIntensified(value / 100))}
          />
        </>
      )}
    </Box>
  );
}
