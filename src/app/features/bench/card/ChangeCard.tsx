import Box from '@mui/material/Box';
import { useEffect, useState } from 'react';
import { kindOfDraft } from '../../../../operations/draft.ts';
import { isMarked } from '../../../../operations/draftBase.ts';
import { shareOfPicture } from '../../../../operations/marks/shareOfPicture.ts';
import { useAppSelector } from '../../../store/store.ts';
import { useDeskView, useKindView } from '../benchContext.ts';
import { FlatSphereCard } from '../around/FlatSphereCard.tsx';
import { SphereQuestion } from '../around/SphereQuestion.tsx';
import { CardPart } from './CardPart.tsx';
import { MarkPart } from './MarkPart.tsx';
import { Notice } from './Notice.tsx';
import { RebuildPart, rebuildWords } from './RebuildPart.tsx';
import { TakesPart } from './TakesPart.tsx';
import { TroubleNote } from './TroubleNote.tsx';
import { WaysSwitch } from './WaysSwitch.tsx';
import { WhatPart } from './WhatPart.tsx';

type PartName = 'mark' | 'what' | 'rebuild';

/** The change under way, and what went wrong last. */
export function ChangeCard() {
  const Card = useKindView()?.Card ?? SubjectParts;
  return (
    <Box
      component="aside"
      aria-label="Change"
      sx={{
        width: 328,
        flexShrink: 0,
        overflowY: 'auto',
        bgcolor: 'background.paper',
        borderLeft: 1,
        borderColor: 'divider',
      }}
    >
      <TroubleNote />
      <Notice />
      <SphereQuestion />
      <WaysSwitch />
      <Card />
    </Box>
  );
}

/** A change read from top to bottom in the order of the work: mark, what happens, how it is rebuilt, takes. */
function SubjectParts() {
  const { outline, source } = useDeskView();
  const draft = useAppSelector((state) => state.bench.project!.draft);
  const [open, setOpen] = useState<Record<PartName, boolean>>({ mark: true, what: true, rebuild: false });
  const toggle = (part: PartName) => (): void => setOpen((now) => ({ ...now, [part]: !now[part] }));
  const marked = isMarked(draft);
  const hasTakes = draft.takes.length > 0;
  const isNew = !marked && !hasTakes;
  // Takes need the room, but not that of the part in which they are being changed; a new mark needs the tools.
  useEffect(() => {
    if (hasTakes) setOpen(({ rebuild }) => ({ mark: false, what: false, rebuild }));
  }, [hasTakes]);
  useEffect(() => {
    if (isNew) setOpen({ mark: true, what: true, rebuild: false });
  }, [isNew]);

  const markLine = !marked ? 'Nothing yet' : outline ? shareOfPicture(outline.areaPx, source.photo) : '';
  const kind = kindOfDraft(draft);
  const { Rebuild = RebuildPart, rebuildLine } = useKindView() ?? {};
  const line = kind?.draft.line?.(draft.change!);
  const whatLine = kind ? [kind.title, ...(line ? [line] : [])].join(', ') : 'Not chosen yet';
  const isFlatSphere = useAppSelector(({ bench }) => bench.project!.source.sphere !== undefined) && !draft.view;
  if (isFlatSphere) {
    return (
      <>
        <CardPart number={1} title="Mark" line={markLine} open={open.mark} onToggle={toggle('mark')}>
          <MarkPart />
        </CardPart>
        <FlatSphereCard />
      </>
    );
  }
  return (
    <>
      <CardPart number={1} title="Mark" line={markLine} open={open.mark} onToggle={toggle('mark')}>
        <MarkPart />
      </CardPart>
      <CardPart number={2} title="What happens" line={whatLine} open={open.what} onToggle={toggle('what')}>
        <WhatPart />
      </CardPart>
      <CardPart
        number={3}
        title="How it is rebuilt"
        line={rebuildLine?.(draft) ?? rebuildWords(draft.closeness, draft.light)}
        open={open.rebuild}
        onToggle={toggle('rebuild')}
      >
        <Rebuild />
      </CardPart>
      <TakesPart />
    </>
  );
}
