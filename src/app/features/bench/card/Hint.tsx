import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** A sentence that says what to do. */
export const Hint = ({ children }: { children: ReactNode }) => (
  <Typography variant="body2" color="text.secondary">
    {children}
  </Typography>
);
