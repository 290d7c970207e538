import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { useAppSelector } from '../../store/store.ts';
import { inBytes } from '../deliver/inBytes.ts';

/** How much of the browser's storage Fingo uses. */
export function StorageGauge() {
  const projects = useAppSelector((state) => state.projects.projects);
  const [estimate, setEstimate] = useState<StorageEstimate>();
  useEffect(() => void navigator.storage?.estimate().then(setEstimate), [projects]);
  if (!estimate?.usage || !estimate.quota) return null;
  const percent = Math.min(100, (100 * estimate.usage) / estimate.quota);
  return (
    <Box sx={{ width: 150 }}>
      <Typography variant="caption" color="text.secondary" component="p">
        {inBytes(estimate.usage)} kept of {inBytes(estimate.quota)}
      </Typography>
      <LinearProgress variant="determinate" value={percent} aria-label="Storage used" />
    </Box>
  );
}
