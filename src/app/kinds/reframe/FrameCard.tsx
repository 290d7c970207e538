import { useEffect, useState } from 'react';
import { describeFrame } from '../../../operations/kinds/reframe/describeFrame.ts';
import { useAppSelector } from '../../store/store.ts';
import { CardPart } from '../../features/bench/card/CardPart.tsx';
import { TakesPart } from '../../features/bench/card/TakesPart.tsx';
import { ComposePart } from './ComposePart.tsx';
import { MarginsPart } from './MarginsPart.tsx';
import { PrintPart } from './PrintPart.tsx';
import { SizePart } from './SizePart.tsx';
import { StraightPart } from './StraightPart.tsx';
import { useFrameDraft } from './useFrameDraft.ts';

type PartName = 'size' | 'straight' | 'margins' | 'print' | 'compose';

/** The change of the frame, read from top to bottom: how large, how straight, what becomes of the margins, takes. */
export function FrameCard() {
  const outlook = useFrameDraft();
  const { frame, vacant, margins } = outlook;
  const [open, setOpen] = useState<Record<PartName, boolean>>({
    size: true,
    straight: true,
    margins: false,
    print: false,
    compose: false,
  });
  // Takes need the room; a step that was opened is to be changed.
  const hasTakes = useAppSelector(({ bench }) => {
    const { takes, editing } = bench.project!.draft;
    return takes.length > 0 && !editing;
  });
  useEffect(() => {
    if (hasTakes) setOpen({ size: false, straight: false, margins: false, print: false, compose: false });
  }, [hasTakes]);
  const toggle = (part: PartName) => (): void => setOpen((now) => ({ ...now, [part]: !now[part] }));
  const rebuilt = vacant.filter((side) => margins.sides.includes(side));
  const [size, ...straight] = describeFrame(frame).split(', ');
  return (
    <>
      <CardPart number={1} title="Frame" line={size!} open={open.size} onToggle={toggle('size')}>
        <SizePart {...outlook} />
      </CardPart>
      <CardPart
        number={2}
        title="Straight"
        line={straight.join(', ') || 'As it was taken'}
        open={open.straight}
        onToggle={toggle('straight')}
      >
        <StraightPart {...outlook} />
      </CardPart>
      <CardPart
        number={3}
        title="Margins"
        line={
          vacant.length === 0 ? 'None vacant' : rebuilt.length > 0 ? `Rebuilt: ${rebuilt.join(', ')}` : 'Left vacant'
        }
        open={open.margins}
        onToggle={toggle('margins')}
      >
        <MarginsPart {...outlook} />
      </CardPart>
      <CardPart number={4} title="Print" line="Size, resolution" open={open.print} onToggle={toggle('print')}>
        <PrintPart {...outlook} />
      </CardPart>
      <CardPart
        number={5}
        title="To compose by"
        line="Lines, safe margin"
        open={open.compose}
        onToggle={toggle('compose')}
      >
        <ComposePart />
      </CardPart>
      <TakesPart />
    </>
  );
}
