import { Jar, Sketch } from '../../features/bench/card/Sketch.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { clear } from '../../../operations/kinds/clear/index.ts';

export const clearView: KindView = {
  type: clear.type,
  Drawing: () => (
    <Sketch>
      <Jar x={14} empty />
    </Sketch>
  ),
};
