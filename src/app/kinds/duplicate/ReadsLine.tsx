import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { kindOf } from '../../../operations/kinds.ts';
import { useAppSelector } from '../../store/store.ts';
import { usePlacing } from '../placing/usePlacing.ts';

/** Out of which state of the picture a second one is taken. */
export function ReadsLine() {
  const { draft, own, set } = usePlacing();
  const { reads = 'present' } = own;
  const steps = useAppSelector((state) => state.bench.project!.steps);
  const open = steps.findIndex(({ id }) => id === draft.editing);
  const before = open < 0 ? steps : steps.slice(0, open);
  // The last of them left the picture as it stands.
  const earlier = before.filter(({ enabled }) => enabled).slice(0, -1);
  const value = typeof reads === 'string' ? reads : reads.after;
  const isThere = typeof reads === 'string' || earlier.some(({ id }) => id === reads.after);
  return (
    <TextField
      select
      size="small"
      label="Taken out of"
      helperText="What was cleared or changed since can still be taken out of an earlier picture."
      value={isThere ? value : 'present'}
      onChange={({ target }) => {
        const next = target.value;
        set({ reads: next === 'present' || next === 'original' ? next : { after: next } });
      }}
    >
      <MenuItem value="present">The picture as it stands</MenuItem>
      {earlier.map((step, k) => (
        <MenuItem key={step.id} value={step.id}>
          After step {k + 1}: {step.name ?? kindOf(step.type).summarize(step.params)}
        </MenuItem>
      ))}
      <MenuItem value="original">The original</MenuItem>
    </TextField>
  );
}
