import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

interface PictureCardProps {
  src: string | undefined;
  title: string;
  line: string;
  /** What a screen reader says for the picture button. */
  label: string;
  onOpen: () => void;
  children?: ReactNode;
}

/** A picture that opens something, with its title, a line about it and, below, what else can be done. */
export function PictureCard({ src, title, line, label, onOpen, children }: PictureCardProps) {
  return (
    <Box
      component="article"
      sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1, overflow: 'hidden' }}
    >
      <ButtonBase onClick={onOpen} aria-label={label} sx={{ display: 'block', width: '100%', bgcolor: '#777777' }}>
        <Box
          component="img"
          src={src}
          alt=""
          loading="lazy"
          sx={{ width: '100%', height: 196, objectFit: 'cover', display: 'block' }}
        />
      </ButtonBase>
      <Box sx={{ px: 1.5, py: 1.25 }}>
        <Typography component="h3" variant="h3" noWrap>
          {title}
        </Typography>
        <Typography variant="caption" color="text.secondary" component="p" noWrap>
          {line}
        </Typography>
        {children}
      </Box>
    </Box>
  );
}
