import { borrow } from '../../../operations/kinds/borrow/index.ts';
import { ownOf } from '../../../operations/draft.ts';
import { Hint } from '../../features/bench/card/Hint.tsx';
import { Sketch } from '../../features/bench/card/Sketch.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { paintLabel } from '../../features/bench/photo/paintGuides.ts';
import { draggedHand, draggedPainter } from '../dragging/carried.ts';

const PLACE = { name: 'from', shows: 'there' } as const;
const painter = draggedPainter(PLACE);

export const borrowView: KindView = {
  type: borrow.type,
  Drawing: () => (
    <Sketch>
      <path d="M40 13H27m4-4-4 4 4 4M8 20l6-5 6 5v8H8z" strokeDasharray="1.5 3" />
      <path d="M46 20l6-5 6 5v8H46z" fill="currentColor" fillOpacity={0.28} />
    </Sketch>
  ),
  Fields: () => (
    <Hint>
      Drag from the mark to the place it should be remade from; it shows there at once. Takes fit it in so that lines
      meet.
    </Hint>
  ),
  hand: draggedHand(PLACE),
  paint: {
    ...painter,
    beforeTake(context, scene) {
      painter.beforeTake!(context, scene);
      const { outline, preview } = scene.desk;
      const from = ownOf(scene.draft, borrow)?.from;
      if (!from || !outline || preview || (from.dxPx === 0 && from.dyPx === 0)) return;
      paintLabel(context, 'From here', outline.box, scene.view, from);
    },
  },
};
