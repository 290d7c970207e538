import { lengthen } from '../../../operations/kinds/lengthen/index.ts';
import { Hint } from '../../features/bench/card/Hint.tsx';
import { PlanesSection } from '../../features/bench/card/PlanesSection.tsx';
import { Sketch } from '../../features/bench/card/Sketch.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { draggedHand, draggedPainter } from '../dragging/carried.ts';

const END = { name: 'by', shows: 'marked' } as const;

export const lengthenView: KindView = {
  type: lengthen.type,
  Drawing: () => (
    <Sketch shelf="M3 29h26">
      <path d="M29 29h32" strokeDasharray="3 3" />
      <path d="M36 20h18m-4-4 4 4-4 4" />
    </Sketch>
  ),
  Fields: () => (
    <Hint>Mark the end of the thing with a piece of what should be repeated behind it, then drag it further.</Hint>
  ),
  // What is lengthened repeats itself: all that matters is the perspective in which it does.
  Rebuild: () => <PlanesSection found="As its edges show" />,
  rebuildLine: ({ planes }) => (planes ? 'Along planes set by hand' : 'In the perspective it shows'),
  hand: draggedHand(END),
  paint: draggedPainter(END),
};
