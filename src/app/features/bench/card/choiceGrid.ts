import type { SxProps, Theme } from '@mui/material/styles';

/** A group of choices in several rows: each a button of its own, since joined borders only work in one row. */
export const choiceGrid = (columns: number): SxProps<Theme> => ({
  display: 'grid',
  gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
  gap: 0.5,
  '& > .MuiToggleButtonGroup-grouped': {
    border: 1,
    borderColor: 'divider',
    borderRadius: '6px',
    margin: 0,
    px: 0.25,
    lineHeight: 1.25,
    overflow: 'hidden',
  },
});
