import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { SphereView } from '../../../../core/sphere/sphereView.ts';
import { describeDirection } from './looking.ts';

/** Which direct view is worked in, and the way out of it. */
export function ViewPlace({ view, onLeave }: { view: SphereView; onLeave: () => void }) {
  return (
    <Box component="section" aria-label="Direct view" sx={{ p: 1.5, pb: 0, width: 168 }}>
      <Typography component="h2" variant="h2">
        Direct view
      </Typography>
      <Typography variant="caption" color="text.secondary" component="p" sx={{ mb: 1 }}>
        {describeDirection(view)}
      </Typography>
      <Button fullWidth onClick={onLeave}>
        Look elsewhere
      </Button>
    </Box>
  );
}
