import { useEffect, useRef } from 'react';
import type { Patch } from '../../../../operations/computation.ts';
import { makeBitmap } from '../../../desk/patchBitmaps.ts';

interface PatchCropProps {
  patch: Patch | undefined;
  /** Px of the canvas; it is drawn as wide as there is room. */
  width: number;
  height: number;
  /** Share of the patch's sides that is shown, around its middle. */
  share?: number;
}

/** The middle of a patch as a small picture, filled whole. */
export function PatchCrop({ patch, width, height, share = 1 }: PatchCropProps) {
  const canvasRef = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvasRef.current?.getContext('2d');
    if (!patch) {
      context?.clearRect(0, 0, width, height);
      return;
    }
    let current = true;
    void makeBitmap(patch.image).then((bitmap) => {
      if (!context || !current) return;
      const scale = Math.max(width / bitmap.width, height / bitmap.height) / share;
      const [w, h] = [bitmap.width * scale, bitmap.height * scale];
      context.imageSmoothingQuality = 'high';
      context.drawImage(bitmap, (width - w) / 2, (height - h) / 2, w, h);
    });
    return () => {
      current = false;
    };
  }, [patch, width, height, share]);
  return (
    <canvas ref={canvasRef} width={width} height={height} style={{ width: '100%', display: 'block' }} aria-hidden />
  );
}
