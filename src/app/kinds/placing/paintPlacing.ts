import { placementToAffine } from '../../../core/image/affine.ts';
import { isMarked } from '../../../operations/draftBase.ts';
import { isPlaced } from '../../../operations/rebuild/placingKind.ts';
import { subjectFrame } from '../../../operations/rebuild/subjectRegions.ts';
import { bitmapOf } from '../../desk/patchBitmaps.ts';
import { paintHorizon } from '../../features/bench/photo/paintGuides.ts';
import type { BenchScene, KindPainter } from '../../features/bench/photo/scene.ts';
import { placingOf } from './usePlacing.ts';

/** The subject at its new place, before its surroundings have been computed. */
function paintGhost(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, view } = scene;
  const affine = placingPainter.markThrough!(draft, desk.source.photo);
  if (!desk.cutOut || !affine) return;
  const { scale } = placingOf(draft).placement;
  const level = Math.max(0, Math.floor(Math.log2(1 / (view.scale * scene.pixelRatio * scale))));
  const bitmap = bitmapOf(desk.cutOut.image, level, scene.whenReady);
  if (!bitmap) return;
  const { rect } = desk.cutOut;
  const { a, b, c, d, tx, ty } = affine;
  context.save();
  context.scale(view.scale, view.scale);
  context.translate(-view.x, -view.y);
  context.transform(a, c, b, d, tx, ty);
  context.drawImage(bitmap, rect.x, rect.y, rect.width, rect.height);
  context.restore();
}

/** A subject that is put elsewhere: itself at its new place, and the horizon that sizes follow. */
export const placingPainter: KindPainter = {
  beforeTake: paintGhost,
  markThrough(draft, photo) {
    if (!isMarked(draft)) return undefined;
    return placementToAffine(placingOf(draft).placement, subjectFrame(draft.mark, photo).centre);
  },
  isAtOrigin: (draft) => !isPlaced(placingOf(draft).placement),
  guides(context, { desk, draft, view }) {
    const { horizonPx } = placingOf(draft);
    if (horizonPx !== undefined) paintHorizon(context, horizonPx, desk.source.photo, view);
  },
};
