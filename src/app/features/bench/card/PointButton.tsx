import ButtonBase from '@mui/material/ButtonBase';
import type { KeyboardEvent } from 'react';

interface PointButtonProps {
  number: number;
  label: string;
  title: string;
  onKeyDown: (event: KeyboardEvent) => void;
  onBlur: () => void;
}

/** A point on the photo, as a button that takes the keys which move it. */
export function PointButton({ number, label, title, onKeyDown, onBlur }: PointButtonProps) {
  return (
    <ButtonBase
      aria-label={label}
      title={title}
      onKeyDown={onKeyDown}
      onBlur={onBlur}
      sx={{ width: 24, height: 24, borderRadius: 1, border: 1, borderColor: 'divider', mr: 0.5, mb: 0.5, fontSize: 12 }}
    >
      {number}
    </ButtonBase>
  );
}
