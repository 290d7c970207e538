import { move } from '../../../operations/kinds/move/index.ts';
import { Jar, Sketch } from '../../features/bench/card/Sketch.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { GroundLine } from '../placing/GroundLine.tsx';
import { placingPainter } from '../placing/paintPlacing.ts';
import { PlacementFields } from '../placing/PlacementFields.tsx';
import { placingHand } from '../placing/placingHand.ts';
import { rebuiltPlacedLine, RebuildPlaced } from '../placing/RebuildPlaced.tsx';

export const moveView: KindView = {
  type: move.type,
  Drawing: () => (
    <Sketch>
      <Jar x={14} empty />
      <Jar x={46} empty={false} />
      <path d="M24 12h13m-4-4 4 4-4 4" />
    </Sketch>
  ),
  Fields: () => (
    <>
      <PlacementFields />
      <GroundLine />
    </>
  ),
  Rebuild: RebuildPlaced,
  rebuildLine: rebuiltPlacedLine,
  hand: placingHand,
  paint: placingPainter,
};
