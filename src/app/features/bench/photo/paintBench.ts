import { fingerprint } from '../../../../operations/draft.ts';
import { isMarked } from '../../../../operations/draftBase.ts';
import type { Patch } from '../../../../operations/computation.ts';
import { takeId, type DeskView, type LineSketch } from '../../../desk/deskView.ts';
import { bitmapOf } from '../../../desk/patchBitmaps.ts';
import type { LiveShape } from '../gestures/gesture.ts';
import { planesInSight, withCorner } from '../planes.ts';
import { paintDonors, paintNamed, paintPlane, paintUsed } from './paintGuides.ts';
import { doubleOutline, lineToPath, paintMark, ringsToPath } from './paintMark.ts';
import { paintRunOn } from './paintRunOn.ts';
import { paintOver, paintPatches, paintTiles } from './paintPicture.ts';
import type { BenchScene, KindPainter } from './scene.ts';
import { photoToScreen, type Viewport } from './viewport.ts';

/** The patches of the take that is to be seen now, if it fits the draft as it stands. */
export function shownTake(
  scene: Pick<BenchScene, 'desk' | 'draft' | 'hoveredTake' | 'isDragged'>,
): Patch[] | undefined {
  const { desk, draft, hoveredTake, isDragged } = scene;
  const id = hoveredTake ?? (draft.chosen && takeId(draft.chosen));
  return id && !isDragged && draft.takesFor === fingerprint(draft) ? desk.takes.get(id) : undefined;
}

/** The lines drawn by themselves, where they are to be seen: those of a moment ago until others are drawn. */
export const shownSketch = ({ desk, runOnShown }: BenchScene): LineSketch | undefined =>
  runOnShown ? desk.sketch : undefined;

/** Paints the whole Bench onto a canvas of screen x pixelRatio px. `painter`: that of the draft's kind. */
export function paintBench(context: CanvasRenderingContext2D, scene: BenchScene, painter: KindPainter = {}): void {
  const { screen, pixelRatio, view, original, splitAt } = scene;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, screen.width * pixelRatio, screen.height * pixelRatio);
  if (painter.instead && !original && splitAt === undefined) {
    painter.instead(context, scene);
    context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
    paintRunOn(context, scene);
    paintLive(context, scene);
    return;
  }
  paintTiles(context, scene.tiles, scene.desk.untouched, view, screen, pixelRatio);
  if (original) return;
  context.save();
  if (splitAt !== undefined) {
    context.beginPath();
    context.rect(splitAt * pixelRatio, 0, (screen.width - splitAt) * pixelRatio, screen.height * pixelRatio);
    context.clip();
  }
  const take = shownTake(scene);
  const isAtOrigin = !take && !scene.isDragged && painter.isAtOrigin?.(scene.draft);
  const { source, patches } = (isAtOrigin && scene.desk.read) || inHand(scene.desk);
  if (source !== scene.desk.untouched) paintTiles(context, scene.tiles, source, view, screen, pixelRatio);
  const made = take ?? shownSketch(scene)?.patches ?? [];
  paintPatches(context, [...patches, ...made], view, pixelRatio, scene.whenReady);
  paintPreview(context, scene);
  context.restore();
  if (splitAt !== undefined) return;
  context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  if (!take) painter.beforeTake?.(context, scene);
  if (scene.markShown) paintMarkings(context, scene, painter, take !== undefined);
  paintGuides(context, scene);
  paintRunOn(context, scene);
  painter.guides?.(context, scene);
  paintLive(context, scene);
}

const inHand = ({ source, base }: DeskView): NonNullable<DeskView['read']> => ({ source, patches: base });

/** Radii of set points. */
const DOT_PX = 3;
const FIRST_DOT_PX = 5;

/** What is painted beside the mark, as it is called on the picture. */
export const PAINTING_NAMES = {
  protect: 'Protected',
  inFront: 'In front',
  belongs: 'Belongs to it',
  belongsNot: 'Not part of it',
} as const;

/** Donors, what else is painted and planes, where they are wanted. */
function paintGuides(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, view, hoveredTake, live } = scene;
  if (desk.painted.donors) paintDonors(context, desk.painted.donors, view);
  for (const painting of ['protect', 'inFront', 'belongs', 'belongsNot'] as const) {
    const outline = desk.painted[painting];
    const isWanted = painting === 'protect' || scene.paintTarget === painting;
    if (outline && isWanted) paintNamed(context, outline, view, PAINTING_NAMES[painting]);
  }
  const id = hoveredTake ?? (draft.chosen && takeId(draft.chosen));
  const report = id === undefined ? undefined : desk.reports.get(id);
  if (scene.donorsShown && report) paintUsed(context, report.used, view);
  if (!scene.planesShown) return;
  planesInSight(draft, desk.reports).forEach((plane, index) => {
    const isDragged = live?.kind === 'corner' && live.plane === index;
    paintPlane(context, isDragged ? withCorner(plane, live.corner, live.at) : plane, view);
  });
}

/** A coarse look at what is being made. */
export function paintPreview(
  context: CanvasRenderingContext2D,
  { desk, view, pixelRatio, whenReady }: Pick<BenchScene, 'desk' | 'view' | 'pixelRatio' | 'whenReady'>,
): void {
  if (!desk.preview) return;
  const bitmap = bitmapOf(desk.preview.image, 0, whenReady);
  context.imageSmoothingEnabled = true;
  if (bitmap) paintOver(context, bitmap, desk.preview.rect, view, pixelRatio);
}

function paintMarkings(
  context: CanvasRenderingContext2D,
  scene: BenchScene,
  painter: KindPainter,
  takeShown: boolean,
): void {
  const { desk, draft, view } = scene;
  if (!desk.outline || !isMarked(draft)) return;
  const affine = painter.markThrough?.(draft, desk.source.photo);
  // With a take (or its first look) in sight only thin outlines stay, so that its edges can be judged.
  if (takeShown || desk.preview || shownSketch(scene) || painter.marksThinly?.(scene)) {
    context.globalAlpha = 0.4;
    doubleOutline(context, ringsToPath(desk.outline.solid, view, affine));
    context.globalAlpha = 1;
    return;
  }
  paintMark(context, desk.outline, view, desk.subject);
  if (affine) doubleOutline(context, ringsToPath(desk.outline.solid, view, affine));
}

function paintLive(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { live, view, brush, pen } = scene;
  if (live?.kind === 'lasso') doubleOutline(context, ringsToPath([live.points], view));
  if (live?.kind === 'outline') paintLiveOutline(context, live, view);
  if (live?.kind === 'stroke') paintLiveStroke(context, live, view);
  if (brush) {
    const at = photoToScreen(view, brush.at);
    const circle = new Path2D();
    circle.arc(at.x, at.y, brush.radiusPx * view.scale, 0, 2 * Math.PI);
    doubleOutline(context, circle);
  }
  if (pen) {
    const at = photoToScreen(view, pen);
    const cross = new Path2D();
    cross.moveTo(at.x - 12, at.y);
    cross.lineTo(at.x + 12, at.y);
    cross.moveTo(at.x, at.y - 12);
    cross.lineTo(at.x, at.y + 12);
    doubleOutline(context, cross);
  }
}

/** The way so far, and the points set on it: the first, where it is closed, larger than the others. */
function paintLiveOutline(
  context: CanvasRenderingContext2D,
  { points, set }: Extract<LiveShape, { kind: 'outline' }>,
  view: Viewport,
): void {
  doubleOutline(context, lineToPath(points, view));
  for (const [index, point] of set.entries()) {
    const at = photoToScreen(view, point);
    const dot = new Path2D();
    dot.arc(at.x, at.y, index === 0 ? FIRST_DOT_PX : DOT_PX, 0, 2 * Math.PI);
    doubleOutline(context, dot);
  }
}

function paintLiveStroke(
  context: CanvasRenderingContext2D,
  stroke: Extract<LiveShape, { kind: 'stroke' }>,
  view: Viewport,
): void {
  context.lineCap = 'round';
  context.lineJoin = 'round';
  context.lineWidth = 2 * stroke.radiusPx * view.scale;
  context.strokeStyle = stroke.takesAway ? 'rgba(0, 0, 0, 0.35)' : 'rgba(255, 255, 255, 0.45)';
  context.stroke(lineToPath(stroke.points, view));
}
