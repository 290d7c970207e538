import type { DrawnLine } from '../../../../core/geometry/uprightFrom.ts';
import type { Affine } from '../../../../core/image/affine.ts';
import type { Size } from '../../../../core/image/rect.ts';
import type { Draft } from '../../../../operations/draft.ts';
import type { DeskView } from '../../../desk/deskView.ts';
import type { Overlays, PaintTarget } from '../../../state/benchState.ts';
import type { LiveShape } from '../gestures/gesture.ts';
import type { TileCache } from './tileCache.ts';
import type { Point, Viewport } from './viewport.ts';

/** Everything that is painted on the photo. */
export interface BenchScene {
  tiles: TileCache;
  view: Viewport;
  screen: Size;
  pixelRatio: number;
  desk: DeskView;
  /** As it would be if what is being dragged were let go. */
  draft: Draft;
  /** Whether something of the draft's kind is being dragged. */
  isDragged: boolean;
  hoveredTake: string | undefined;
  original: boolean;
  /** CSS px from the left up to which the original is shown, if the split is on. */
  splitAt: number | undefined;
  markShown: boolean;
  paintTarget: PaintTarget;
  planesShown: boolean;
  donorsShown: boolean;
  runOnShown: boolean;
  runOnInHand: number | undefined;
  overlays: Overlays;
  /** Lines drawn to level or square up by, in px of the photo. */
  lines: readonly DrawnLine[];
  live: LiveShape | undefined;
  /** Where the brush would paint, in photo px. */
  brush: { at: Point; radiusPx: number } | undefined;
  /** The keyboard's pen. */
  pen: Point | undefined;
  /** Called when a bitmap that was missing has been made. */
  whenReady: () => void;
}

/** What a kind of step adds to the photo, or paints instead of it. Contexts are in CSS px unless said otherwise. */
export interface KindPainter {
  /** Paints all of it, in place of picture, mark and guides. */
  instead?(context: CanvasRenderingContext2D, scene: BenchScene): void;
  /** Over the picture, as long as no take of the draft is in sight. */
  beforeTake?(context: CanvasRenderingContext2D, scene: BenchScene): void;
  /** Where the marked thing goes. */
  markThrough?(draft: Draft, photo: Size): Affine | undefined;
  /** Whether the mark is seen as a thin outline only, so that what lies under it can be judged. */
  marksThinly?(scene: BenchScene): boolean;
  /** Whether what is marked is still to be seen in the picture that it is taken out of. */
  isAtOrigin?(draft: Draft): boolean;
  guides?(context: CanvasRenderingContext2D, scene: BenchScene): void;
}
