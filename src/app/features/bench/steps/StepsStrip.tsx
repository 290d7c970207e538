import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { kindOf } from '../../../../operations/kinds.ts';
import { shareOfPicture } from '../../../../operations/marks/shareOfPicture.ts';
import type { Step } from '../../../../operations/recipe.ts';
import { useAppDispatch, useAppSelector } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';

/** Everything that was used, in order; each can be opened again, switched off or removed. */
export function StepsStrip() {
  const steps = useAppSelector((state) => state.bench.project!.steps);
  const editing = useAppSelector((state) => state.bench.project!.draft.editing);
  const recomputing = useAppSelector((state) => state.bench.recomputing);
  const failed = useAppSelector((state) => state.bench.failed);
  const adjusted = useAppSelector((state) => state.bench.adjusted);
  return (
    <Box
      component="nav"
      aria-label="Steps"
      sx={{
        width: 168,
        flex: 1,
        minHeight: 0,
        overflowY: 'auto',
        p: 1.5,
      }}
    >
      <Typography component="h2" variant="h2" sx={{ mb: 1 }}>
        Steps
      </Typography>
      {steps.length === 0 && (
        <Typography variant="caption" color="text.secondary" component="p">
          Each change that you use is kept here. It can be opened again, changed or switched off at any time.
        </Typography>
      )}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        {steps.map((step, index) => (
          <StepItem
            key={step.id}
            step={step}
            number={index + 1}
            isOpen={editing === step.id || adjusted === step.id}
            isComputing={recomputing === index && step.enabled}
            trouble={failed?.id === step.id ? failed.message : undefined}
            isLeftOut={failed !== undefined && index > failed.index}
          />
        ))}
      </Box>
    </Box>
  );
}

interface StepItemProps {
  step: Step;
  number: number;
  isOpen: boolean;
  isComputing: boolean;
  /** Why it can't be made. */
  trouble: string | undefined;
  /** It follows one that can't be made. */
  isLeftOut: boolean;
}

function StepItem({ step, number, isOpen, isComputing, trouble, isLeftOut }: StepItemProps) {
  const { desk } = useBenchParts();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const projectId = useAppSelector((state) => state.bench.project!.id);
  const kind = kindOf(step.type);
  const { title } = kind;
  const line = `${kind.summarize(step.params)}${useMarkedShare(step)}`;
  const open = (): void => {
    dispatch(benchActions.stepOpened(step.id));
    if (kind.draft.job === 'around') void navigate(`/p/${projectId}/around`);
  };
  return (
    <Box component="li">
      <ButtonBase
        onClick={open}
        aria-label={`Step ${number}: ${line}. Open it for change`}
        aria-current={isOpen ? 'step' : undefined}
        sx={{
          display: 'block',
          width: '100%',
          textAlign: 'left',
          border: 2,
          borderColor: trouble ? 'error.main' : isOpen ? 'primary.main' : 'divider',
          borderRadius: 1,
          overflow: 'hidden',
          opacity: step.enabled && !isLeftOut ? 1 : 0.5,
        }}
      >
        <StepHalves step={step} index={number - 1} />
        <Typography variant="caption" component="span" sx={{ display: 'block', px: 0.75, py: 0.5 }}>
          {number} {step.name ?? line}
        </Typography>
      </ButtonBase>
      {trouble && (
        <Box role="alert" sx={{ mt: 0.5 }}>
          <Typography variant="caption" component="p" color="error">
            Can’t be made: {trouble}
          </Typography>
          <Button size="small" variant="text" onClick={desk.replayAgain} aria-label={`Try step ${number} again`}>
            Try again
          </Button>
        </Box>
      )}
      {isLeftOut && (
        <Typography variant="caption" component="p" color="text.secondary">
          Waits for the step that can’t be made.
        </Typography>
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <Switch
          size="small"
          checked={step.enabled}
          onChange={() => void desk.switchStep(step.id)}
          slotProps={{ input: { 'aria-label': `Step ${number}, ${title}, is on` } }}
        />
        {isComputing ? (
          <Typography variant="caption" color="text.secondary" role="status">
            Computing
          </Typography>
        ) : (
          <Button
            size="small"
            variant="text"
            aria-label={`Remove step ${number}`}
            onClick={() => desk.removeStep(step.id)}
          >
            Remove
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** ", N % of the picture" once the mark has been measured (off this thread: marks can be large). */
function useMarkedShare(step: Step): string {
  const { desk } = useBenchParts();
  const [share, setShare] = useState('');
  const { mark, view } = step.params;
  const { photo: shown } = useDeskView().source;
  const photo = view ?? shown;
  useEffect(() => {
    if (!mark) return;
    let current = true;
    void desk.picture.outline(mark, photo).then(({ areaPx }) => {
      if (current) setShare(`, ${shareOfPicture(areaPx, photo)}`);
    });
    return () => {
      current = false;
    };
  }, [desk, mark, photo]);
  return share;
}

const HALF = { width: 70, height: 54 };

/** The changed place before (left) and after (right) the step. */
function StepHalves({ step, index }: { step: Step; index: number }) {
  const { desk } = useBenchParts();
  const deskView = useDeskView();
  const canvasRef = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let current = true;
    void desk.stepHalves(index, HALF).then((halves) => {
      const context = canvasRef.current?.getContext('2d');
      if (!context || !halves || !current) return;
      halves.forEach((bitmap, side) => context.drawImage(bitmap, side * (HALF.width + 1), 0));
    });
    return () => {
      current = false;
    };
    // The base changes whenever steps have been computed again.
  }, [desk, step, index, deskView.base]);
  return (
    <canvas
      ref={canvasRef}
      width={2 * HALF.width + 1}
      height={HALF.height}
      style={{ width: '100%', display: 'block' }}
      aria-hidden
    />
  );
}
