import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useNavigate } from 'react-router';
import { isSphereSize } from '../../../operations/sphere/requireSphere.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useDeskView } from './benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { jobOf } from '../../../operations/draft.ts';
import type { Job } from '../../../operations/kind.ts';

/** What there is to do: on a sphere one looks around in it, or at it rolled out flat. */
type Choice = Job;

const SUBJECTS = { job: 'subjects', label: 'Subjects' } as const;
const FRAME = { job: 'frame', label: 'Frame' } as const;
const AROUND = { job: 'around', label: 'Around' } as const;
const FLAT = { job: 'subjects', label: 'Flat sphere' } as const;

/** The jobs on the Bench, in words. What is under way in the one is kept while the other is done. */
export function JobSwitch({ around }: { around: boolean }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { photo } = useDeskView().source;
  const id = useAppSelector((state) => state.bench.project!.id);
  const source = useAppSelector((state) => state.bench.project!.source);
  const job = useAppSelector((state) => jobOf(state.bench.project!.draft));
  const choice: Choice = around ? 'around' : job;
  const choices = source.sphere ? [AROUND, FLAT] : isSphereSize(source) ? [SUBJECTS, FRAME, AROUND] : [SUBJECTS, FRAME];
  const choose = (next: Choice): void => {
    if (next === 'around') {
      if (!source.sphere) dispatch(benchActions.sphereAnswered(true));
      void navigate(`/p/${id}/around`);
    } else if (around) {
      dispatch(benchActions.viewLeft());
      void navigate(`/p/${id}`);
    } else dispatch(benchActions.jobChosen({ job: next, photo }));
  };
  return (
    <Box component="nav" aria-label="Jobs" sx={{ p: 1.5, pb: 0 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        orientation="vertical"
        value={choice}
        aria-label="Job"
        onChange={(_, next: Choice | null) => next && choose(next)}
      >
        {choices.map((each) => (
          <ToggleButton key={each.job} value={each.job} sx={{ justifyContent: 'flex-start', px: 1.5 }}>
            {each.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
