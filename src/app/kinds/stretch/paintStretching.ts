import { AS_TAKEN } from '../../../core/geometry/frameGeometry.ts';
import { ownOf, shapeKey } from '../../../operations/draft.ts';
import { stretch } from '../../../operations/kinds/stretch/index.ts';
import { bitmapOf } from '../../desk/patchBitmaps.ts';
import { paintNamed } from '../../features/bench/photo/paintGuides.ts';
import { paintOver, paintPatches, paintTiles } from '../../features/bench/photo/paintPicture.ts';
import type { BenchScene } from '../../features/bench/photo/scene.ts';
import { paintFrame } from '../framing/paintFrame.ts';

/** The stretched picture; until it is there, and while something is drawn on it, the picture as it was. */
export function paintStretching(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, view, screen, pixelRatio } = scene;
  const { width, height } = ownOf(draft, stretch)!;
  const { photo } = desk.source;
  const rect = { x: 0, y: 0, width, height };
  const isDrawn = scene.paintTarget === 'protect';
  const isMade = !scene.isDragged && !isDrawn && desk.reframed?.key === shapeKey(draft);
  if (isMade && (width !== photo.width || height !== photo.height)) {
    paintTiles(context, scene.tiles, desk.reframed!.source, view, screen, pixelRatio);
  } else if (desk.glance && !isDrawn) {
    const glance = bitmapOf(desk.glance, 0, scene.whenReady);
    if (glance) paintOver(context, glance, rect, view, pixelRatio);
  } else {
    paintTiles(context, scene.tiles, desk.source, view, screen, pixelRatio);
    paintPatches(context, desk.base, view, pixelRatio, scene.whenReady);
  }
  context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  if (!isMade && desk.painted.protect) paintNamed(context, desk.painted.protect, view, 'Keeps its shape');
  if (isDrawn) return;
  paintFrame(context, {
    frame: { ...AS_TAKEN, rect },
    photo,
    view,
    screen,
    overlays: undefined,
    isMade: true,
    isDragged: false,
  });
}
