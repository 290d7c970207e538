import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import InputBase from '@mui/material/InputBase';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { Link } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { MONO } from '../../theme/theme.ts';
import { ViewMenu } from '../../theme/ViewMenu.tsx';
import { useBenchParts } from './benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';

/** The bar over the photo: where one is, back and forth, looking closer, comparing, delivering. */
export function BenchBar({ isLooking, onShowKeys }: { isLooking: boolean; onShowKeys: () => void }) {
  const { view, look, looking, lookClosely } = useBenchParts();
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.bench.project);
  const split = useAppSelector((state) => state.bench.split);
  const panelsFolded = useAppSelector((state) => state.bench.panelsFolded);
  const viewport = useSyncExternalStore(view.subscribe, view.get);
  const percent = Math.round(viewport.scale * devicePixelRatio * 100);
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.75,
        px: 1.5,
        minHeight: 52,
        bgcolor: 'background.paper',
        borderBottom: 1,
        borderColor: 'divider',
        overflowX: 'auto',
      }}
    >
      <Button component={Link} to="/" variant="text" sx={{ flexShrink: 0 }}>
        Projects
      </Button>
      <ProjectName key={project!.id} name={project!.name} />
      <KeyedButton
        label="Undo"
        keys="Ctrl Z"
        disabled={project!.past.length === 0}
        onClick={() => dispatch(benchActions.undone())}
      />
      <KeyedButton
        label="Redo"
        keys="Ctrl Shift Z"
        disabled={project!.future.length === 0}
        onClick={() => dispatch(benchActions.redone())}
      />
      <Box sx={{ flex: 1 }} />
      {!isLooking && (
        <>
          <KeyedButton label="Fit" keys="F" onClick={() => view.fit()} />
          <KeyedButton label="100 %" keys="D" onClick={lookClosely} />
          <Button
            variant="text"
            aria-label="Zoom out"
            onClick={() => view.zoomBy(1 / 1.25)}
            sx={{ minWidth: 36, px: 0 }}
          >
            −
          </Button>
          <Typography
            component="output"
            aria-label="Zoom"
            variant="caption"
            sx={{ fontFamily: MONO, minWidth: 44, textAlign: 'center' }}
          >
            {percent} %
          </Typography>
          <Button variant="text" aria-label="Zoom in" onClick={() => view.zoomBy(1.25)} sx={{ minWidth: 36, px: 0 }}>
            +
          </Button>
          <Tooltip title="Hold to see the original, key O">
            <Button
              aria-pressed={looking.original}
              onPointerDown={() => look({ original: true })}
              onPointerUp={() => look({ original: false })}
              onPointerLeave={() => looking.original && look({ original: false })}
              onKeyDown={(event) => (event.key === ' ' || event.key === 'Enter') && look({ original: true })}
              onKeyUp={() => look({ original: false })}
              onBlur={() => look({ original: false })}
              sx={{ flexShrink: 0 }}
            >
              Original
            </Button>
          </Tooltip>
          <KeyedButton label="Split" keys="S" pressed={split} onClick={() => dispatch(benchActions.splitToggled())} />
        </>
      )}
      <KeyedButton
        label={panelsFolded ? 'Show panels' : 'Fold panels'}
        keys="X"
        pressed={panelsFolded}
        onClick={() => dispatch(benchActions.panelsToggled())}
      />
      <ViewMenu />
      <Button variant="text" onClick={onShowKeys} title="Key ?">
        Keys
      </Button>
      <Button
        component={Link}
        to={`/p/${project!.id}/deliver`}
        variant="contained"
        color="primary"
        sx={{ flexShrink: 0 }}
      >
        Deliver
      </Button>
    </Box>
  );
}

interface KeyedButtonProps {
  label: string;
  keys: string;
  pressed?: boolean;
  disabled?: boolean;
  onClick: () => void;
}

function KeyedButton({ label, keys, pressed, disabled = false, onClick }: KeyedButtonProps) {
  return (
    <Tooltip title={`Key ${keys}`}>
      <span>
        <Button
          variant={pressed ? 'outlined' : 'text'}
          disabled={disabled}
          aria-pressed={pressed}
          onClick={onClick}
          sx={{ flexShrink: 0, whiteSpace: 'nowrap' }}
        >
          {label}
        </Button>
      </span>
    </Tooltip>
  );
}

function ProjectName({ name }: { name: string }) {
  const dispatch = useAppDispatch();
  const [text, setText] = useState(name);
  useEffect(() => setText(name), [name]);
  const take = (): void => {
    if (text.trim()) dispatch(benchActions.projectRenamed(text));
    else setText(name);
  };
  return (
    <InputBase
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.querySelector('input')?.blur()}
      slotProps={{ input: { 'aria-label': 'Project name', maxLength: 120 } }}
      sx={{
        width: 130,
        fontWeight: 650,
        px: 1,
        borderRadius: 1,
        '&.Mui-focused': { outline: '2px solid', outlineColor: 'primary.main' },
      }}
    />
  );
}
