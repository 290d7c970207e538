import { duplicate } from '../../../operations/kinds/duplicate/index.ts';
import { Jar, Sketch } from '../../features/bench/card/Sketch.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { GroundLine } from '../placing/GroundLine.tsx';
import { placingPainter } from '../placing/paintPlacing.ts';
import { PlacementFields } from '../placing/PlacementFields.tsx';
import { placingHand } from '../placing/placingHand.ts';
import { rebuiltPlacedLine, RebuildPlaced } from '../placing/RebuildPlaced.tsx';
import { ReadsLine } from './ReadsLine.tsx';

export const duplicateView: KindView = {
  type: duplicate.type,
  Drawing: () => (
    <Sketch>
      <Jar x={14} empty={false} />
      <Jar x={46} empty={false} />
    </Sketch>
  ),
  Fields: () => (
    <>
      <PlacementFields />
      <GroundLine />
      <ReadsLine />
    </>
  ),
  Rebuild: RebuildPlaced,
  rebuildLine: rebuiltPlacedLine,
  hand: placingHand,
  paint: placingPainter,
};
