import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { useId } from 'react';
import { MONO } from '../../../theme/theme.ts';

interface PxSliderProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: string;
  onChange: (value: number) => void;
  onSettled?: () => void;
}

/** A named slider with its value and unit beside it. */
export function PxSlider({ label, value, min, max, step = 1, unit = 'px', onChange, onSettled }: PxSliderProps) {
  const id = useId();
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '76px 1fr 62px',
        alignItems: 'center',
        columnGap: 1.5,
        minHeight: 32,
      }}
    >
      <Typography id={id} variant="caption">
        {label}
      </Typography>
      <Slider
        aria-labelledby={id}
        getAriaValueText={(v) => `${v} ${unit}`}
        value={value}
        min={min}
        max={max}
        step={step}
        track={min < 0 ? false : 'normal'}
        onChange={(_, next) => onChange(next as number)}
        onChangeCommitted={() => onSettled?.()}
      />
      <Typography variant="caption" sx={{ fontFamily: MONO, textAlign: 'right', whiteSpace: 'nowrap' }}>
        {value} {unit}
      </Typography>
    </Box>
  );
}
