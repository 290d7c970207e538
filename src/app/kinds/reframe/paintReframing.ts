import { isAsTaken, uprightHomography } from '../../../core/geometry/frameGeometry.ts';
import { applyHomography } from '../../../core/geometry/homography.ts';
import { fingerprint, ownOf, shapeKey } from '../../../operations/draft.ts';
import { reframe } from '../../../operations/kinds/reframe/index.ts';
import { vacantSides } from '../../../operations/kinds/reframe/vacancy.ts';
import { gazeOf } from '../../desk/deskView.ts';
import { PAINTING_NAMES, paintPreview, shownSketch, shownTake } from '../../features/bench/photo/paintBench.ts';
import { paintDonors, paintNamed } from '../../features/bench/photo/paintGuides.ts';
import { doubleOutline, ringsToPath } from '../../features/bench/photo/paintMark.ts';
import { paintPatches, paintTiles } from '../../features/bench/photo/paintPicture.ts';
import type { BenchScene } from '../../features/bench/photo/scene.ts';
import type { Point } from '../../features/bench/photo/viewport.ts';
import { paintAtEdge, paintFrame, paintVacancy } from '../framing/paintFrame.ts';
import { uprightLines } from './drawnLines.ts';
import { paintGaze } from './paintGaze.ts';
import { paintWarped } from './paintWarped.ts';

/** The frame that is to be, over the photo set upright; its vacancies as the take in sight rebuilds them. */
export function paintReframing(context: CanvasRenderingContext2D, scene: BenchScene): void {
  const { desk, draft, isDragged, live, view, screen, pixelRatio } = scene;
  const { frame } = ownOf(draft, reframe)!;
  const { photo } = desk.source;
  const inCssPx = (): void => context.setTransform(pixelRatio, 0, 0, pixelRatio, 0, 0);
  inCssPx();
  paintVacancy(context, frame.rect, view);
  const isMade = !isDragged && desk.reframed?.key === shapeKey(draft);
  context.setTransform(1, 0, 0, 1, 0, 0);
  if (isMade) {
    const inFrame = { ...view, x: view.x - frame.rect.x, y: view.y - frame.rect.y };
    paintTiles(context, scene.tiles, desk.reframed!.source, inFrame, screen, pixelRatio);
    const sketch = shownSketch(scene);
    const sketched = sketch?.of === fingerprint(draft) ? sketch.patches : [];
    paintPatches(context, shownTake(scene) ?? sketched, inFrame, pixelRatio, scene.whenReady);
    paintPreview(context, { ...scene, view: inFrame });
  } else if (isAsTaken(frame)) {
    paintTiles(context, scene.tiles, desk.source, view, screen, pixelRatio);
    paintPatches(context, desk.base, view, pixelRatio, scene.whenReady);
  } else if (desk.overview) {
    inCssPx();
    paintWarped(context, desk.overview, photo, uprightHomography(frame, photo), view);
  }
  inCssPx();
  const overlays = scene.markShown ? scene.overlays : undefined;
  paintFrame(context, { frame, photo, view, screen, overlays, isMade, isDragged });
  if (scene.markShown && !isMade && isAsTaken(frame) && !draft.donors) {
    const sides = vacantSides(frame, photo);
    for (const { side, rect } of desk.atEdge ?? []) if (sides.includes(side)) paintAtEdge(context, rect, view);
  }
  if (scene.markShown && desk.gaze && !isDragged && desk.gaze.of === gazeOf(desk, draft)) {
    const map = uprightHomography(frame, photo);
    const { x, y } = frame.rect;
    const toView = (at: Point): Point => (isMade ? { x: at.x + x, y: at.y + y } : applyHomography(map, at.x, at.y));
    paintGaze(context, desk.gaze.fixations, view, toView);
  }
  if (desk.painted.donors) paintDonors(context, desk.painted.donors, view);
  if (desk.painted.protect) paintNamed(context, desk.painted.protect, view, PAINTING_NAMES.protect);
  const drawn = uprightLines(scene.lines, frame, photo);
  for (const { from, to } of live?.kind === 'line' ? [...drawn, live] : drawn) {
    doubleOutline(context, ringsToPath([[from.x, from.y, to.x, to.y]], view));
  }
}
