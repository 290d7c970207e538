import { UNITS_PER_EM } from '../../../core/mask/outlinePath.ts';
import { ownOf } from '../../../operations/draft.ts';
import { text as kind, type TextDraft } from '../../../operations/kinds/text/index.ts';
import type { BenchScene } from '../../features/bench/photo/scene.ts';
import { doubleOutline, ringsToPath } from '../../features/bench/photo/paintMark.ts';
import { photoToScreen, type Point } from '../../features/bench/photo/viewport.ts';

/** A text as it will lie on the picture, or behind a thing in it, with its block's outline; in CSS px. */
export function paintText(context: CanvasRenderingContext2D, { view, draft, markShown, desk }: BenchScene): void {
  const text = ownOf(draft, kind)!;
  const corner = photoToScreen(view, text);
  const scale = (text.sizePx / UNITS_PER_EM) * view.scale;
  context.save();
  if (text.behind && desk.painted.behind) {
    const around = ringsToPath(desk.painted.behind.solid, view);
    around.rect(0, 0, context.canvas.width, context.canvas.height);
    context.clip(around, 'evenodd');
  }
  context.translate(corner.x, corner.y);
  context.scale(scale, scale);
  context.fillStyle = text.colour;
  context.globalAlpha = text.opacity;
  context.fill(new Path2D(text.outline));
  context.restore();
  if (!markShown || text.block.width === 0) return;
  const outline = new Path2D();
  outline.rect(corner.x, corner.y, text.block.width * scale, text.block.height * scale);
  doubleOutline(context, outline);
}

/** Whether a photo point lies in a text's block. */
export function isOnText({ x, y, sizePx, block }: TextDraft, at: Point): boolean {
  const scale = sizePx / UNITS_PER_EM;
  return at.x >= x && at.y >= y && at.x <= x + block.width * scale && at.y <= y + block.height * scale;
}
