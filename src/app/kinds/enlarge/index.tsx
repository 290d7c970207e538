import Box from '@mui/material/Box';
import { enlarge } from '../../../operations/kinds/enlarge/index.ts';
import { useDeskView } from '../../features/bench/benchContext.ts';
import { CardPart } from '../../features/bench/card/CardPart.tsx';
import { Hint } from '../../features/bench/card/Hint.tsx';
import { TakesPart } from '../../features/bench/card/TakesPart.tsx';
import type { KindView } from '../../features/bench/kindView.ts';
import { useOwn, useSetting } from '../../features/bench/useChange.ts';
import { SideField } from '../../features/bench/card/SideField.tsx';

/** Another size for the whole picture; its sides keep their ratio. */
function EnlargeCard() {
  const { width, height } = useOwn(enlarge)!;
  const { set } = useSetting<{ width: number; height: number }>('enlarge');
  const { photo } = useDeskView().source;
  const ratio = photo.width / photo.height;
  return (
    <>
      <CardPart number={1} title="Size" line={`${width} x ${height} px`} open onToggle={() => undefined}>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mb: 1 }}>
          <SideField
            label="Width"
            value={width}
            onChange={(next) => set({ width: next, height: Math.max(1, Math.round(next / ratio)) })}
          />
          <SideField
            label="Height"
            value={height}
            onChange={(next) => set({ height: next, width: Math.max(1, Math.round(next * ratio)) })}
          />
        </Box>
        <Hint>
          The picture has {photo.width} x {photo.height} px; all of it gets another size.
        </Hint>
      </CardPart>
      <TakesPart />
    </>
  );
}

export const enlargeView: KindView = { type: enlarge.type, useLabel: 'Use this size', Card: EnlargeCard };
