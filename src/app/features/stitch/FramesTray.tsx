import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import type { FrameReport } from '../../../engine/stitchReport.ts';
import { useAppSelector } from '../../store/store.ts';
import { MONO } from '../../theme/theme.ts';
import type { StitchDesk } from './stitchDesk.ts';

const THUMBNAIL_PX = 132;

/** The frames: found order first, then those that are left out, each with why. */
interface FramesTrayProps {
  desk: StitchDesk;
  onAdd: () => void;
  onKeepOnly: (ids: readonly string[]) => void;
}

export function FramesTray({ desk, onAdd, onKeepOnly }: FramesTrayProps) {
  const frames = useAppSelector((state) => state.stitch.frames);
  const report = useAppSelector((state) => state.stitch.report);
  const order = report?.order ?? [];
  const places = [...order, ...[...frames.keys()].filter((place) => !order.includes(place))];
  return (
    <Box
      component="nav"
      aria-label="Frames"
      sx={{
        width: 176,
        flexShrink: 0,
        overflowY: 'auto',
        bgcolor: 'background.paper',
        borderRight: 1,
        borderColor: 'divider',
        p: 1.5,
        display: 'flex',
        flexDirection: 'column',
        gap: 1.5,
      }}
    >
      <Button fullWidth onClick={onAdd}>
        Add frames
      </Button>
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        {places.map((place) => {
          const { id, name } = frames[place]!;
          const about = report?.frames[place];
          return (
            <Box component="li" key={id} sx={{ opacity: about && !about.used ? 0.75 : 1 }}>
              <Thumbnail blob={desk.fileOf(id)} />
              <Typography variant="caption" sx={{ display: 'flex', gap: 0.75, mt: 0.5 }}>
                <Box component="span" sx={{ fontFamily: MONO }}>
                  {place + 1}
                </Box>
                <Box component="span" title={name} sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
                  {name}
                </Box>
              </Typography>
              <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
                <Typography
                  variant="caption"
                  sx={{ flex: 1, color: about && !about.used ? 'error.main' : 'text.secondary' }}
                >
                  {about ? saidOf(about) : ''}
                </Typography>
                <Button
                  size="small"
                  variant="text"
                  aria-label={`Take out ${name}`}
                  onClick={() => onKeepOnly(frames.filter((frame) => frame.id !== id).map((frame) => frame.id))}
                >
                  Take out
                </Button>
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

function saidOf({ used, why, sameAs, gain }: FrameReport): string {
  if (used) return `${(gain! >= 1 ? '+' : '') + Math.log2(gain!).toFixed(2)} EV`;
  if (why === 'same') return `Left out: the same as ${sameAs! + 1}`;
  if (why === 'featureless') return 'Left out: too blurred or too plain';
  return 'Left out: shows nothing of what the others show';
}

/** A picture file, small. A file that can't be read stays blank: opening it says why. */
function Thumbnail({ blob }: { blob: Blob | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let current = true;
    const draw = async (): Promise<void> => {
      if (!blob) return;
      const bitmap = await createImageBitmap(blob, { resizeWidth: 2 * THUMBNAIL_PX, resizeQuality: 'medium' });
      const to = canvas.current;
      if (current && to) {
        to.width = bitmap.width;
        to.height = bitmap.height;
        to.getContext('2d')!.drawImage(bitmap, 0, 0);
      }
      bitmap.close();
    };
    draw().catch(() => undefined);
    return () => void (current = false);
  }, [blob]);
  return (
    <Box
      component="canvas"
      ref={canvas}
      aria-hidden
      sx={{ width: '100%', maxHeight: THUMBNAIL_PX, objectFit: 'contain', display: 'block', borderRadius: 0.5 }}
    />
  );
}
