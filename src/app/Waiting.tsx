import Box from '@mui/material/Box';
import CircularProgress from '@mui/material/CircularProgress';
import Typography from '@mui/material/Typography';

/** While something is fetched or opened that fills the page. */
export const Waiting = ({ children }: { children?: string }) => (
  <Box
    component="main"
    sx={{ height: '100%', display: 'grid', placeContent: 'center', justifyItems: 'center', gap: 2 }}
  >
    <CircularProgress size={28} aria-label="Opening" />
    <Typography role="status">{children ?? 'Opening'}</Typography>
  </Box>
);
