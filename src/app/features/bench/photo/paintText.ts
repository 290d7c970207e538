import { UNITS_PER_EM } from '../../../../operations/text/schema.ts';
import type { Draft } from '../../../../storage/projectSchema.ts';
import type { DeskView } from '../../../desk/deskView.ts';
import type { LiveShape } from '../gestures/gesture.ts';
import { doubleOutline, ringsToPath } from './paintMark.ts';
import { photoToScreen, type Point, type Viewport } from './viewport.ts';

type Text = NonNullable<Draft['text']>;

interface TextScene {
  view: Viewport;
  live: LiveShape | undefined;
  markShown: boolean;
  desk: Pick<DeskView, 'behind'>;
}

/** A text as it will lie on the picture, or behind a thing in it, with its block's outline; in CSS px. */
export function paintText(
  context: CanvasRenderingContext2D,
  { view, live, markShown, desk }: TextScene,
  text: Text,
): void {
  const at = live?.kind === 'place' ? { x: live.dxPx, y: live.dyPx } : text;
  const corner = photoToScreen(view, at);
  const scale = (text.sizePx / UNITS_PER_EM) * view.scale;
  context.save();
  if (text.behind && desk.behind) {
    const around = ringsToPath(desk.behind.solid, view);
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
export function isOnText({ x, y, sizePx, block }: Text, at: Point): boolean {
  const scale = sizePx / UNITS_PER_EM;
  return at.x >= x && at.y >= y && at.x <= x + block.width * scale && at.y <= y + block.height * scale;
}
