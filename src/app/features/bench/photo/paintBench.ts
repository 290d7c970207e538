import { placementToAffine, type Affine } from '../../../../core/image/affine.ts';
import { AS_TAKEN, isAsTaken, uprightHomography } from '../../../../core/geometry/frameGeometry.ts';
import { applyHomography } from '../../../../core/geometry/homography.ts';
import type { DrawnLine } from '../../../../core/geometry/uprightFrom.ts';
import type { Size } from '../../../../core/image/rect.ts';
import { vacantSides } from '../../../../operations/reframe/vacancy.ts';
import type { FrameParams } from '../../../../operations/reframe/schema.ts';
import type { Patch } from '../../../../operations/operation.ts';
import { subjectFrame } from '../../../../operations/rebuild/placeMarked.ts';
import type { PlacementParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import type { Draft } from '../../../../storage/projectSchema.ts';
import { gazeOf, takeId, type DeskView } from '../../../desk/deskView.ts';
import { bitmapOf } from '../../../desk/patchBitmaps.ts';
import { fingerprint, isMarked, isMoved, isPlacing, isStretched, shapeKey } from '../draft.ts';
import type { Overlays, PaintTarget } from '../benchState.ts';
import type { LiveShape } from '../gestures/gesture.ts';
import { planesInSight, withCorner } from '../planes.ts';
import { paintAtEdge, paintFrame, paintVacancy } from './paintFrame.ts';
import { paintGaze } from './paintGaze.ts';
import { paintWarped } from './paintWarped.ts';
import { doubleOutline, lineToPath, paintMark, ringsToPath } from './paintMark.ts';
import { paintText } from './paintText.ts';
import { paintOver, paintPatches, paintTiles } from './paintPicture.ts';
import type { TileCache } from './tileCache.ts';
import { paintDonors, paintHorizon, paintLabel, paintNamed, paintPlane, paintUsed } from './paintGuides.ts';
import { photoToScreen, type Point, type Viewport } from './viewport.ts';

export interface BenchScene {
  tiles: TileCache;
  view: Viewport;
  screen: Size;
  pixelRatio: number;
  desk: DeskView;
  draft: Draft;
  hoveredTake: string | undefined;
  original: boolean;
  /** CSS px from the left up to which the original is shown, if the split is on. */
  splitAt: number | undefined;
  markShown: boolean;
  paintTarget: PaintTarget;
  planesShown: boolean;
  donorsShown: boolean;
  overlays: Overlays;
  /** Lines drawn to level or square up by, in px of the upright photo. */
  drawnLines: readonly DrawnLine[];
  live: LiveShape | undefined;
  /** Where the brush would paint, in photo px. */
  brush: { at: Point; radiusPx: number } | undefined;
  /** The keyboard's pen. */
  pen: Point | undefined;
  /** Called when a bitmap that was missing has been made. */
  whenReady: () => void;
}

/** The placement that is to be seen now: what is being dragged, else what is set. */
export const shownPlacement = ({ draft, live }: Pick<BenchScene, 'draft' | 'live'>): PlacementParams =>
  live?.kind === 'place'
    ? { ...draft.placement, dxPx: live.dxPx, dyPx: live.dyPx, scale: live.scale ?? draft.placement.scale }
    : draft.placement;

/** The patches of the take that is to be seen now, if it fits the draft as it stands. */
export function shownTake(scene: Pick<BenchScene, 'desk' | 'draft' | 'hoveredTake' | 'live'>): Patch[] | undefined {
  const { desk, draft, hoveredTake, live } = scene;
  const id = hoveredTake ?? (draft.chosen && takeId(draft.chosen));
  const isStale = draft.takesFor !== fingerprint(draft) || live?.kind === 'place';
  return id && !isStale ? desk.takes.get(id) : undefined;
}

/** Paints the whole Bench onto a canvas of screen x pixelRatio px. */
export function paintBench(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { screen, pixelRatio, view, original, splitAt } = scene;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, screen.width * pixelRatio, screen.height * pixelRatio);
  if (scene.draft.reframe && !original && splitAt === undefined) {
    paintReframing(context, scene, scene.draft.reframe.frame);
    return;
  }
  if (scene.draft.stretch && !original && splitAt === undefined) {
    paintStretching(context, scene, scene.draft.stretch);
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
  const { source, patches } = take ? inHand(scene.desk) : toMark(scene);
  if (source !== scene.desk.untouched) paintTiles(context, scene.tiles, source, view, screen, pixelRatio);
  paintPatches(context, [...patches, ...(take ?? [])], view, pixelRatio, scene.whenReady);
  paintPreview(context, scene);
  context.restore();
  if (splitAt !== undefined) return;
  context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  if (scene.draft.text && !take) paintText(context, scene, scene.draft.text);
  if (isPlacing(scene.draft.what) && !take) paintGhost(context, scene);
  if (!take && !scene.desk.preview) paintCarried(context, scene);
  if (scene.markShown) paintMarkings(context, scene, take !== undefined);
  paintGuides(context, scene);
  paintLive(context, scene);
}

type ShownPicture = NonNullable<DeskView['read']>;

const inHand = ({ source, base }: DeskView): ShownPicture => ({ source, patches: base });

/** Until something is placed, what is marked is seen in the picture that it is taken out of. */
const toMark = ({ desk, draft, live }: BenchScene): ShownPicture =>
  desk.read && !isMoved(draft) && live?.kind !== 'place' ? desk.read : inHand(desk);

/** The frame that is to be, over the photo set upright; its vacancies as the take in sight rebuilds them. */
function paintReframing(context: CanvasRenderingContext2D, scene: BenchScene, set: FrameParams): void {
  const { desk, live, view, screen, pixelRatio } = scene;
  const frame = live?.kind === 'frame' ? { ...set, rect: live.rect } : set;
  const { photo } = desk.source;
  const inCssPx = (): void => context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  inCssPx();
  paintVacancy(context, frame.rect, view);
  const isMade = desk.reframed?.key === shapeKey(scene.draft) && frame === set;
  context.setTransform(1, 0, 0, 1, 0, 0);
  if (isMade) {
    const inFrame = { ...view, x: view.x - frame.rect.x, y: view.y - frame.rect.y };
    paintTiles(context, scene.tiles, desk.reframed!.source, inFrame, screen, pixelRatio);
    paintPatches(context, shownTake(scene) ?? [], inFrame, pixelRatio, scene.whenReady);
    paintPreview(context, { ...scene, view: inFrame });
  } else if (isAsTaken(frame)) {
    paintTiles(context, scene.tiles, desk.source, view, screen, pixelRatio);
    paintPatches(context, desk.base, view, pixelRatio, scene.whenReady);
  } else if (desk.overview) {
    inCssPx();
    paintWarped(context, desk.overview, photo, uprightHomography(frame, photo), view);
  }
  inCssPx();
  paintFrame(context, {
    frame,
    photo,
    view,
    screen,
    overlays: scene.markShown ? scene.overlays : undefined,
    isMade,
    isDragged: live?.kind === 'frame',
  });
  if (scene.markShown && !isMade && isAsTaken(frame) && !scene.draft.donors) {
    const sides = vacantSides(frame, photo);
    for (const { side, rect } of desk.atEdge ?? []) if (sides.includes(side)) paintAtEdge(context, rect, view);
  }
  if (scene.markShown && desk.gaze?.of === gazeOf(desk, scene.draft) && live?.kind !== 'frame') {
    const map = uprightHomography(frame, photo);
    const { x, y } = frame.rect;
    const toView = (at: Point): Point => (isMade ? { x: at.x + x, y: at.y + y } : applyHomography(map, at.x, at.y));
    paintGaze(context, desk.gaze.fixations, view, toView);
  }
  if (desk.painted.donors) paintDonors(context, desk.painted.donors, view);
  if (desk.painted.protect) paintNamed(context, desk.painted.protect, view, PAINTING_NAMES.protect);
  const drawn = live?.kind === 'line' ? [...scene.drawnLines, live] : scene.drawnLines;
  for (const { from, to } of drawn) {
    doubleOutline(context, ringsToPath([[from.x, from.y, to.x, to.y]], view));
  }
  paintLive(context, scene);
}

/** The stretched picture; until it is there, and while something is drawn on it, the picture as it was. */
function paintStretching(context: CanvasRenderingContext2D, scene: BenchScene, set: Size): void {
  const { desk, live, view, screen, pixelRatio } = scene;
  const rect = live?.kind === 'frame' ? live.rect : { x: 0, y: 0, width: set.width, height: set.height };
  const isDrawn = scene.paintTarget === 'protect';
  const isMade = desk.reframed?.key === shapeKey(scene.draft) && live?.kind !== 'frame' && !isDrawn;
  if (isMade && isStretched(scene.draft, desk.source.photo)) {
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
  if (!isDrawn) {
    const frame = { ...AS_TAKEN, rect };
    paintFrame(context, {
      frame,
      photo: desk.source.photo,
      view,
      screen,
      overlays: undefined,
      isMade: true,
      isDragged: false,
    });
  }
  paintLive(context, scene);
}

/** Radii of set points. */
const DOT_PX = 3;
const FIRST_DOT_PX = 5;

/** What is painted beside the mark, as it is called on the picture. */
const PAINTING_NAMES = {
  protect: 'Protected',
  inFront: 'In front',
  belongs: 'Belongs to it',
  belongsNot: 'Not part of it',
} as const;

/** Donors, what else is painted, horizon and planes, where they are wanted. */
function paintGuides(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, view, hoveredTake, live } = scene;
  if (desk.painted.donors) paintDonors(context, desk.painted.donors, view);
  for (const painting of ['protect', 'inFront', 'belongs', 'belongsNot'] as const) {
    const outline = desk.painted[painting];
    const isWanted = painting === 'protect' || scene.paintTarget === painting;
    if (outline && isWanted) paintNamed(context, outline, view, PAINTING_NAMES[painting]);
  }
  if (draft.horizonPx !== undefined && isPlacing(draft.what)) {
    paintHorizon(context, live?.kind === 'horizon' ? live.y : draft.horizonPx, desk.source.photo, view);
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

function paintPreview(context: CanvasRenderingContext2D, { desk, view, pixelRatio, whenReady }: BenchScene): void {
  if (!desk.preview) return;
  const bitmap = bitmapOf(desk.preview.image, 0, whenReady);
  context.imageSmoothingEnabled = true;
  if (bitmap) paintOver(context, bitmap, desk.preview.rect, view, pixelRatio);
}

/** The subject at its new place, before its surroundings have been computed. */
function paintGhost(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, view } = scene;
  const affine = placementAffine(scene);
  if (!desk.cutOut || !affine) return;
  const level = Math.max(0, Math.floor(Math.log2(1 / (view.scale * scene.pixelRatio * scene.draft.placement.scale))));
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

/**
 * Borrow and lengthen as they are dragged: the picture under the mark replaced by what lies at the other place, or the
 * marked end as it lies further on.
 */
function paintCarried(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, view, pixelRatio } = scene;
  if ((draft.what !== 'borrow' && draft.what !== 'lengthen') || !desk.outline || !isMarked(draft)) return;
  const { dxPx, dyPx } = shownPlacement(scene);
  if (dxPx === 0 && dyPx === 0) return;
  const there = shiftedBy(dxPx, dyPx);
  const isBorrow = draft.what === 'borrow';
  context.save();
  context.clip(ringsToPath(desk.outline.solid, view, isBorrow ? undefined : there), 'evenodd');
  context.setTransform(1, 0, 0, 1, 0, 0);
  const sign = isBorrow ? 1 : -1;
  const shifted = { ...view, x: view.x + sign * dxPx, y: view.y + sign * dyPx };
  paintTiles(context, scene.tiles, desk.source, shifted, scene.screen, pixelRatio);
  paintPatches(context, desk.base, shifted, pixelRatio, scene.whenReady);
  context.restore();
  doubleOutline(context, ringsToPath(desk.outline.solid, view, there));
  if (isBorrow) paintLabel(context, 'From here', desk.outline.box, view, { dxPx, dyPx });
}

const shiftedBy = (tx: number, ty: number): Affine => ({ a: 1, b: 0, c: 0, d: 1, tx, ty });

function paintMarkings(context: CanvasRenderingContext2D, scene: BenchScene, takeShown: boolean): void {
  const { desk, view } = scene;
  if (!desk.outline || !isMarked(scene.draft)) return;
  const affine = isPlacing(scene.draft.what) ? placementAffine(scene) : undefined;
  // With a take (or its first look) in sight only thin outlines stay, so that its edges can be judged.
  const { dxPx, dyPx } = shownPlacement(scene);
  const isCarried = (scene.draft.what === 'borrow' || scene.draft.what === 'lengthen') && (dxPx !== 0 || dyPx !== 0);
  if (takeShown || desk.preview || isCarried) {
    context.globalAlpha = 0.4;
    doubleOutline(context, ringsToPath(desk.outline.solid, view, affine));
    context.globalAlpha = 1;
    return;
  }
  paintMark(context, desk.outline, view, isPlacing(scene.draft.what) ? desk.subject : undefined);
  if (affine) doubleOutline(context, ringsToPath(desk.outline.solid, view, affine));
}

function placementAffine(scene: BenchScene): ReturnType<typeof placementToAffine> | undefined {
  if (!isMarked(scene.draft)) return undefined;
  return placementToAffine(shownPlacement(scene), subjectFrame(scene.draft.mark, scene.desk.source.photo).centre);
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
