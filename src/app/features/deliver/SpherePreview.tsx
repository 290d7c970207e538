import '@photo-sphere-viewer/core/index.css';
import { Viewer } from '@photo-sphere-viewer/core';
import Box from '@mui/material/Box';
import { useEffect, useRef, useState } from 'react';

/** The file in a viewer such as web sites use, which goes by the sphere metadata in it. */
export function SpherePreview({ src }: { src: string }) {
  const container = useRef<HTMLDivElement>(null);
  const [state, setState] = useState<'loading' | 'ready' | 'failed'>('loading');
  useEffect(() => {
    setState('loading');
    let viewer: Viewer;
    try {
      viewer = new Viewer({
        container: container.current!,
        panorama: src,
        navbar: ['zoom', 'move'],
        keyboard: 'always',
      });
    } catch {
      setState('failed');
      return;
    }
    viewer.addEventListener('ready', () => setState('ready'), { once: true });
    viewer.addEventListener('panorama-error', () => setState('failed'));
    return () => viewer.destroy();
  }, [src]);
  return (
    <Box sx={{ position: 'relative', width: '100%', height: '100%' }}>
      <Box
        ref={container}
        data-state={state}
        role="region"
        aria-label="The file in a sphere viewer, as a web site shows it"
        sx={{ position: 'absolute', inset: 0 }}
      />
      {state === 'failed' && (
        <Box sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', p: 4 }} role="status">
          This browser can’t show the viewer (it needs WebGL); the file itself is ready to be saved.
        </Box>
      )}
    </Box>
  );
}
