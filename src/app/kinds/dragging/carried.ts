import type { Affine } from '../../../core/image/affine.ts';
import { isMarked } from '../../../operations/draftBase.ts';
import type { Draft } from '../../../operations/draft.ts';
import { benchActions } from '../../state/benchSlice.ts';
import type { KindHand } from '../../features/bench/kindView.ts';
import { doubleOutline, ringsToPath } from '../../features/bench/photo/paintMark.ts';
import { paintPatches, paintTiles } from '../../features/bench/photo/paintPicture.ts';
import type { BenchScene, KindPainter } from '../../features/bench/photo/scene.ts';
import { dragShift } from './dragShift.ts';

export interface Shift {
  dxPx: number;
  dyPx: number;
}

export const shiftedBy = ({ dxPx, dyPx }: Shift): Affine => ({ a: 1, b: 0, c: 0, d: 1, tx: dxPx, ty: dyPx });

/** Something dragged from the mark to another place: from where to where, under the name it has in the draft. */
export interface Dragged {
  name: string;
  /** The place that it is dragged to is shown under the mark, or the marked at that place. */
  shows: 'there' | 'marked';
}

const shiftOf = ({ change }: Draft, { name }: Dragged): Shift =>
  (change as unknown as Record<string, Shift>)[name] ?? { dxPx: 0, dyPx: 0 };

/** The picture as it is dragged: under the mark what lies at the other place, or there what is marked. */
function paintCarried(context: CanvasRenderingContext2D, scene: BenchScene, dragged: Dragged): void {
  const { desk, draft, view, pixelRatio } = scene;
  const shift = shiftOf(draft, dragged);
  if (!desk.outline || !isMarked(draft) || desk.preview || (shift.dxPx === 0 && shift.dyPx === 0)) return;
  const there = shiftedBy(shift);
  const isThere = dragged.shows === 'there';
  context.save();
  context.clip(ringsToPath(desk.outline.solid, view, isThere ? undefined : there), 'evenodd');
  context.setTransform(1, 0, 0, 1, 0, 0);
  const sign = isThere ? 1 : -1;
  const shifted = { ...view, x: view.x + sign * shift.dxPx, y: view.y + sign * shift.dyPx };
  paintTiles(context, scene.tiles, desk.source, shifted, scene.screen, pixelRatio);
  paintPatches(context, desk.base, shifted, pixelRatio, scene.whenReady);
  context.restore();
  doubleOutline(context, ringsToPath(desk.outline.solid, view, there));
}

export const draggedPainter = (dragged: Dragged): KindPainter => ({
  beforeTake: (context, scene) => paintCarried(context, scene, dragged),
  marksThinly({ draft }) {
    const { dxPx, dyPx } = shiftOf(draft, dragged);
    return dxPx !== 0 || dyPx !== 0;
  },
});

export const draggedHand = (dragged: Dragged): KindHand => {
  const set = (shift: Shift) => ({ [dragged.name]: { dxPx: shift.dxPx, dyPx: shift.dyPx } });
  return {
    goesTo: (draft) => shiftedBy(shiftOf(draft, dragged)),
    begin(at, screenPoint, { draft, bench, store, isOnMark }) {
      if (bench.paintTarget !== 'mark' || !isOnMark(screenPoint)) return undefined;
      return dragShift(at, shiftOf(draft, dragged), set, (change) =>
        store.dispatch(benchActions.changeSet({ change, gesture: 'place' })),
      );
    },
    cursor: (screenPoint, _at, { isOnMark }) => (isOnMark(screenPoint) ? 'move' : undefined),
    nudge(direction, stepPx, { draft, store }) {
      if (!isMarked(draft)) return false;
      const { dxPx, dyPx } = shiftOf(draft, dragged);
      const change = set({ dxPx: dxPx + direction.x * stepPx, dyPx: dyPx + direction.y * stepPx });
      store.dispatch(benchActions.changeSet({ change, gesture: 'place' }));
      return true;
    },
  };
};
