import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useMemo, type KeyboardEvent } from 'react';
import type { DraftTake } from '../../../../operations/draft.ts';
import { takeId } from '../../../desk/deskView.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions } from '../../../state/benchSlice.ts';
import { PatchCrop } from './PatchCrop.tsx';
import { tellingPatch } from './tellingPatch.ts';

interface TakeListProps {
  takes: DraftTake[];
  chosen: string | undefined;
  /** Digits count from here. */
  firstNumber: number;
  label: string;
}

/** Takes as crops of the changed place; hover or focus shows one on the photo, digits choose. */
export function TakeList({ takes, chosen, firstNumber, label }: TakeListProps) {
  const { look } = useBenchParts();
  const { takes: pixels } = useDeskView();
  const dispatch = useAppDispatch();
  const telling = useMemo(
    () => tellingPatch(takes.flatMap(({ spec }) => (pixels.has(takeId(spec)) ? [pixels.get(takeId(spec))!] : []))),
    [takes, pixels],
  );
  const onKeyDown = (event: KeyboardEvent): void => {
    const take = takes[Number(event.key) - firstNumber];
    if (!/^[1-9]$/.test(event.key) || !take) return;
    event.stopPropagation();
    dispatch(benchActions.takeChosen(take.spec));
  };
  return (
    <Box
      role="group"
      aria-label={label}
      onKeyDown={onKeyDown}
      sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1 }}
    >
      {takes.map((take, index) => {
        const id = takeId(take.spec);
        const number = firstNumber + index;
        const isChosen = id === chosen;
        return (
          <ButtonBase
            key={id}
            aria-pressed={isChosen}
            aria-label={`Take ${number}, ${take.spec.strategy}${take.setAside ? ', set aside' : ''}`}
            onClick={() => dispatch(benchActions.takeChosen(take.spec))}
            onMouseEnter={() => look({ hoveredTake: id })}
            onMouseLeave={() => look({ hoveredTake: undefined })}
            onFocus={() => look({ hoveredTake: id })}
            onBlur={() => look({ hoveredTake: undefined })}
            sx={{
              flexDirection: 'column',
              alignItems: 'stretch',
              justifyContent: 'flex-start',
              borderRadius: 1,
              overflow: 'hidden',
              border: 2,
              borderColor: isChosen ? 'primary.main' : 'transparent',
              opacity: take.setAside ? 0.55 : 1,
            }}
          >
            <PatchCrop patch={pixels.get(id)?.[telling]} width={168} height={126} />
            <Typography
              variant="caption"
              sx={{ px: 0.5, py: 0.25, lineHeight: 1.25, textAlign: 'left', fontWeight: isChosen ? 650 : 400 }}
            >
              {number} {take.spec.strategy}
            </Typography>
          </ButtonBase>
        );
      })}
    </Box>
  );
}
