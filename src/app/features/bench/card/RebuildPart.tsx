import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonGroup from '@mui/material/ButtonGroup';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { benchActions } from '../benchSlice.ts';
import { isPlacing } from '../draft.ts';

const LEVELS = [0, 25, 50, 75, 100] as const;
const CLOSENESS_WORDS = ['Loosest', 'Looser', 'Even', 'Closer', 'Closest'];
const LIGHT_WORDS = ['Its own', 'Mostly its own', 'Halfway', 'Mostly the place’s', 'The place’s'];

/** Closeness and light of the rebuilt or placed part, in steps that can be told apart. */
export function RebuildPart() {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const placing = isPlacing(draft.what);
  const settle = (): void => void dispatch(benchActions.gestureEnded());
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
      <Stepper
        label="Closeness"
        hint={
          placing
            ? 'How much of the ground around it comes along'
            : 'How large the pieces are that are carried over whole'
        }
        words={CLOSENESS_WORDS}
        ends={['Looser', 'Closer']}
        value={draft.closeness}
        onChange={(closeness) => {
          settle();
          dispatch(benchActions.rebuildSet({ closeness }));
        }}
      />
      <Stepper
        label="Light"
        hint={placing ? 'Whose light the subject takes' : 'Whose tone the new part takes'}
        words={LIGHT_WORDS}
        ends={['Its own', 'The place’s']}
        value={placing ? draft.placedLight : draft.rebuiltLight}
        onChange={(value) => {
          settle();
          dispatch(benchActions.rebuildSet(placing ? { placedLight: value } : { rebuiltLight: value }));
        }}
      />
      {placing && (
        <FormControlLabel
          control={
            <Switch
              size="small"
              checked={draft.withShadow}
              onChange={(_, withShadow) => {
                settle();
                dispatch(benchActions.rebuildSet({ withShadow }));
              }}
            />
          }
          label="Its shadow comes along, if it is marked"
          slotProps={{ typography: { variant: 'body2' } }}
        />
      )}
    </Box>
  );
}

interface StepperProps {
  label: string;
  hint: string;
  words: readonly string[];
  ends: readonly [string, string];
  value: number;
  onChange: (value: number) => void;
}

/** One of five steps between two ends, the present one told in words. */
function Stepper({ label, hint, words, ends, value, onChange }: StepperProps) {
  const index = Math.round(value / 25);
  return (
    <Box role="group" aria-label={label}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Typography variant="body2">{label}</Typography>
        <Typography variant="caption" color="text.secondary" aria-live="polite">
          {words[index]}
        </Typography>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p">
        {hint}
      </Typography>
      <ButtonGroup fullWidth size="small" sx={{ mt: 0.5 }}>
        <Button disabled={index === 0} onClick={() => onChange(LEVELS[index - 1]!)}>
          {ends[0]}
        </Button>
        <Button disabled={index === LEVELS.length - 1} onClick={() => onChange(LEVELS[index + 1]!)}>
          {ends[1]}
        </Button>
      </ButtonGroup>
    </Box>
  );
}

/** The part in one line. */
export function rebuildLine(closeness: number, light: number): string {
  return `${CLOSENESS_WORDS[Math.round(closeness / 25)]}, light: ${LIGHT_WORDS[Math.round(light / 25)]!.toLowerCase()}`;
}
