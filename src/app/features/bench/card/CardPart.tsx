import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useId, type ReactNode } from 'react';

interface CardPartProps {
  number: number;
  title: string;
  /** The part in one line: what was decided, or what is missing. */
  line: string;
  open: boolean;
  onToggle: () => void;
  children: ReactNode;
}

/** One numbered part of the change card; folded, it is a single readable line. */
export function CardPart({ number, title, line, open, onToggle, children }: CardPartProps) {
  const id = useId();
  return (
    <Box component="section" sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <Typography component="h2" variant="h2">
        <ButtonBase
          aria-expanded={open}
          aria-controls={id}
          onClick={onToggle}
          sx={{
            font: 'inherit',
            width: '100%',
            minHeight: 44,
            px: 2,
            py: 1,
            gap: 1.25,
            justifyContent: 'flex-start',
            textAlign: 'left',
          }}
        >
          <Box component="span" sx={{ color: 'primary.main', font: 'inherit', fontVariantNumeric: 'tabular-nums' }}>
            {number}
          </Box>
          <Box component="span" sx={{ font: 'inherit', flexShrink: 0 }}>
            {title}
          </Box>
          <Typography component="span" variant="caption" noWrap sx={{ color: 'text.secondary', ml: 'auto' }}>
            {line}
          </Typography>
        </ButtonBase>
      </Typography>
      <Box id={id} hidden={!open} sx={{ px: 2, pb: 2 }}>
        {open && children}
      </Box>
    </Box>
  );
}
