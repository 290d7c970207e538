import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { StretchParams } from '../../../operations/kinds/stretch/schema.ts';
import { stretch as kind } from '../../../operations/kinds/stretch/index.ts';
import { useOwn, useSetting } from '../../features/bench/useChange.ts';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import { useDeskView } from '../../features/bench/benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { CardPart } from '../../features/bench/card/CardPart.tsx';
import { TakesPart } from '../../features/bench/card/TakesPart.tsx';
import { SideField } from '../../features/bench/card/SideField.tsx';

type Stretch = Pick<StretchParams, 'width' | 'height' | 'part'>;

/** Stretching, read from top to bottom: to what size, what keeps its shape, where it stretches. */
export function StretchCard() {
  const stretch = useOwn(kind)!;
  const { set } = useSetting<Stretch>('stretch');
  const { photo } = useDeskView().source;
  const keeps = useAppSelector((state) => state.bench.project!.draft.protect !== undefined);
  const [open, setOpen] = useState({ size: true, keep: true, part: false });
  const toggle = (name: keyof typeof open) => (): void => setOpen((now) => ({ ...now, [name]: !now[name] }));
  const { part } = stretch;
  const isWhole = part.left === 0 && part.top === 0 && part.right === 1 && part.bottom === 1;
  return (
    <>
      <CardPart
        number={1}
        title="Size"
        line={`${stretch.width} x ${stretch.height} px`}
        open={open.size}
        onToggle={toggle('size')}
      >
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <SideField label="Width" value={stretch.width} onChange={(width) => set({ width })} />
          <SideField label="Height" value={stretch.height} onChange={(height) => set({ height })} />
        </Box>
        <Typography variant="caption" color="text.secondary" component="p" sx={{ mt: 1 }}>
          Drag an edge of the picture, or give a size. It is widened or narrowed where that shows least, by up to twice
          and down to half of {photo.width} x {photo.height} px.
        </Typography>
      </CardPart>
      <CardPart
        number={2}
        title="What keeps its shape"
        line={keeps ? 'Marked' : 'Nothing marked'}
        open={open.keep}
        onToggle={toggle('keep')}
      >
        <KeepFields keeps={keeps} />
      </CardPart>
      <CardPart
        number={3}
        title="Where it stretches"
        line={isWhole ? 'The whole picture' : 'A part'}
        open={open.part}
        onToggle={toggle('part')}
      >
        <PartSlider
          label="From left to right"
          from={part.left}
          to={part.right}
          onChange={(left, right) => set({ part: { ...part, left, right } })}
        />
        <PartSlider
          label="From top to bottom"
          from={part.top}
          to={part.bottom}
          onChange={(top, bottom) => set({ part: { ...part, top, bottom } })}
        />
      </CardPart>
      <TakesPart />
    </>
  );
}

function KeepFields({ keeps }: { keeps: boolean }) {
  const dispatch = useAppDispatch();
  const paintTarget = useAppSelector((state) => state.bench.paintTarget);
  const tool = useAppSelector((state) => state.bench.tool);
  const isDrawing = paintTarget === 'protect';
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: keeps ? '2fr 1fr' : '1fr', gap: 1 }}>
        <Button
          variant={isDrawing ? 'contained' : 'outlined'}
          aria-pressed={isDrawing}
          onClick={() => {
            if (!isDrawing && tool !== 'brush') dispatch(benchActions.toolChosen('lasso'));
            dispatch(benchActions.paintTargetChosen(isDrawing ? 'mark' : 'protect'));
          }}
        >
          {isDrawing ? 'Done' : 'Draw around it'}
        </Button>
        {keeps && <Button onClick={() => dispatch(benchActions.paintingDropped('protect'))}>Drop</Button>}
      </Box>
      <Typography variant="caption" color="text.secondary">
        {isDrawing ? 'Draw loosely around each thing that must not change its shape.' : 'People, buildings, lettering.'}
      </Typography>
    </Box>
  );
}

interface PartSliderProps {
  label: string;
  from: number;
  to: number;
  onChange: (from: number, to: number) => void;
}

/** A stretch of a side, in percent; at least a tenth of it. */
function PartSlider({ label, from, to, onChange }: PartSliderProps) {
  const [shown, setShown] = useState<[number, number]>();
  const value = shown ?? [Math.round(100 * from), Math.round(100 * to)];
  return (
    <Box sx={{ px: 1 }}>
      <Typography variant="caption">
        {label}: {value[0]} to {value[1]} %
      </Typography>
      <Slider
        value={value}
        min={0}
        max={100}
        getAriaLabel={(index) => `${label}, ${index === 0 ? 'begins' : 'ends'}`}
        onChange={(_, next) => setShown(next as [number, number])}
        onChangeCommitted={(_, next) => {
          const [low, high] = next as [number, number];
          setShown(undefined);
          onChange(Math.min(low, 90) / 100, Math.max(high, Math.min(low, 90) + 10) / 100);
        }}
      />
    </Box>
  );
}
