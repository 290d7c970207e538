import Box from '@mui/material/Box';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

interface SplitDividerProps {
  /** Share of the width, 0 to 1, that shows the original. */
  share: number;
  onChange(share: number): void;
}

/** The line between the original (left) and the present state (right); dragged, or moved by arrow keys. */
export function SplitDivider({ share, onChange }: SplitDividerProps) {
  const dragging = useRef(false);
  const within = (value: number): number => Math.max(0.02, Math.min(0.98, value));
  const onPointerMove = (event: PointerEvent<HTMLElement>): void => {
    if (!dragging.current) return;
    const box = event.currentTarget.parentElement!.getBoundingClientRect();
    onChange(within((event.clientX - box.left) / box.width));
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0;
    if (!step) return;
    event.preventDefault();
    onChange(within(share + step));
  };
  return (
    <Box
      role="slider"
      aria-label="Divider between the original on the left and the present state on the right"
      aria-valuemin={2}
      aria-valuemax={98}
      aria-valuenow={Math.round(share * 100)}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        dragging.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => (dragging.current = false)}
      sx={{
        position: 'absolute',
        top: 0,
        bottom: 0,
        left: `calc(${share * 100}% - 20px)`,
        width: 40,
        cursor: 'ew-resize',
        touchAction: 'none',
        '&::before': {
          content: '""',
          position: 'absolute',
          inset: '0 18.5px',
          bgcolor: '#fff',
          border: '1px solid rgba(0,0,0,.8)',
          borderWidth: '0 1px',
        },
        '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: -2 },
      }}
    >
      <Caption side="right" text="Original" />
      <Caption side="left" text="Now" />
    </Box>
  );
}

const Caption = ({ side, text }: { side: 'left' | 'right'; text: string }) => (
  <Box
    component="span"
    sx={{
      position: 'absolute',
      top: 12,
      [side]: 26,
      px: 1,
      borderRadius: 1,
      fontSize: 12,
      bgcolor: 'background.paper',
      color: 'text.primary',
      userSelect: 'none',
    }}
  >
    {text}
  </Box>
);
