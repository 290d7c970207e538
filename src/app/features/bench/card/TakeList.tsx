import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import type { KeyboardEvent } from 'react';
import type { Patch } from '../../../../operations/operation.ts';
import type { DraftTake } from '../../../../storage/projectSchema.ts';
import { takeId } from '../../../desk/deskView.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { useBenchParts, useDeskView } from '../benchContext.ts';
import { benchActions } from '../benchSlice.ts';
import { PatchCrop } from './PatchCrop.tsx';

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
              borderRadius: 1,
              overflow: 'hidden',
              border: 2,
              borderColor: isChosen ? 'primary.main' : 'transparent',
              opacity: take.setAside ? 0.55 : 1,
            }}
          >
            <PatchCrop patch={largest(pixels.get(id))} width={168} height={126} />
            <Typography
              variant="caption"
              noWrap
              sx={{ px: 0.5, py: 0.25, textAlign: 'left', fontWeight: isChosen ? 650 : 400 }}
            >
              {number} {take.spec.strategy}
            </Typography>
          </ButtonBase>
        );
      })}
    </Box>
  );
}

/** Of several changed places the one that tells most. */
const largest = (patches: readonly Patch[] | undefined): Patch | undefined =>
  patches?.reduce((a, b) => (b.rect.width * b.rect.height > a.rect.width * a.rect.height ? b : a), patches[0]!);
