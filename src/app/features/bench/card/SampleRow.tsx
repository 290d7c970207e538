import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { SETTING_LEVELS, sampleId, type Setting } from '../../../desk/deskView.ts';
import { useDeskView } from '../benchContext.ts';
import { PatchCrop } from './PatchCrop.tsx';

interface SampleRowProps {
  setting: Setting;
  label: string;
  hint: string;
  /** What each of the five levels is called. */
  words: readonly string[];
  value: number;
  onChange: (value: number) => void;
}

/** A setting in five steps, each shown as what it makes of the chosen take. */
export function SampleRow({ setting, label, hint, words, value, onChange }: SampleRowProps) {
  const { samples } = useDeskView();
  const index = Math.round(value / 25);
  return (
    <Box role="group" aria-label={label}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="body2">{label}</Typography>
        <Typography variant="caption" aria-live="polite">
          {words[index]}
        </Typography>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p">
        {hint}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(5, 1fr)', gap: 0.5, mt: 0.5 }}>
        {SETTING_LEVELS.map((level, k) => (
          <ButtonBase
            key={level}
            aria-pressed={k === index}
            aria-label={`${label}: ${words[k]}`}
            title={words[k]}
            onClick={() => k !== index && onChange(level)}
            sx={{
              display: 'block',
              borderRadius: 1,
              overflow: 'hidden',
              border: 2,
              borderColor: k === index ? 'primary.main' : 'divider',
              minHeight: 40,
              bgcolor: 'background.default',
            }}
          >
            <PatchCrop patch={samples.get(sampleId(setting, level))?.at(-1)} width={104} height={88} share={0.45} />
          </ButtonBase>
        ))}
      </Box>
    </Box>
  );
}
