import { UNITS_PER_EM } from '../../../core/mask/outlinePath.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { serialiseError } from '../../../core/errors.ts';
import type { Size } from '../../../core/image/rect.ts';
import { LONGEST_TEXT, SMALLEST_TEXT_PX } from '../../../operations/kinds/text/schema.ts';
import type { Mark } from '../../../operations/marks/markSchema.ts';
import { text as kind, TEXT_MARGIN, type TextDraft as Text } from '../../../operations/kinds/text/index.ts';
import { useOwn, useSetting, type Setting } from '../../features/bench/useChange.ts';
import { useAppSelector } from '../../store/store.ts';
import { useBenchParts, useDeskView } from '../../features/bench/benchContext.ts';
import { CardPart } from '../../features/bench/card/CardPart.tsx';
import { PxSlider } from '../../features/bench/card/PxSlider.tsx';
import { isMarked } from '../../../operations/draftBase.ts';
import { FACES } from '../../../formats/lettering/faceNames.ts';
import { openFace } from './faces.ts';

const ALIGNS = [
  { align: 'left', label: 'Left' },
  { align: 'centre', label: 'Centre' },
  { align: 'right', label: 'Right' },
] as const;

/** Where a block can be put with one press: shares of the room that is left across and down. */
const PLACES = [
  ['Top left', 0, 0],
  ['Top', 0.5, 0],
  ['Top right', 1, 0],
  ['Left', 0, 0.5],
  ['Middle', 0.5, 0.5],
  ['Right', 1, 0.5],
  ['Bottom left', 0, 1],
  ['Bottom', 0.5, 1],
  ['Bottom right', 1, 1],
] as const;

/** A text laid on the picture, read from top to bottom: what it says, how it looks, where it stands. */
export function TextCard() {
  const text = useOwn(kind)!;
  const setting = useSetting<Text>('text');
  const { desk } = useBenchParts();
  const { photo } = useDeskView().source;
  const working = useAppSelector((state) => state.bench.work.stage !== '');
  const [open, setOpen] = useState({ words: true, looks: true, place: true });
  const toggle = (name: keyof typeof open) => (): void => setOpen((now) => ({ ...now, [name]: !now[name] }));
  const { letter, trouble } = useLettering(text, setting);
  const { slide: set, settle } = setting;
  const face = text.face || FACES[0];
  const largest = Math.max(SMALLEST_TEXT_PX, Math.round(Math.max(photo.width, photo.height) / 3));
  return (
    <>
      <CardPart
        number={1}
        title="What it says"
        line={text.text.trim() ? `${text.text.split('\n').length} lines`.replace(/^1 lines/, '1 line') : 'Nothing yet'}
        open={open.words}
        onToggle={toggle('words')}
      >
        <TextField
          fullWidth
          multiline
          minRows={2}
          maxRows={8}
          size="small"
          label="Text"
          placeholder="Port Amsel spring fair"
          value={text.text}
          error={trouble !== ''}
          helperText={trouble || undefined}
          slotProps={{ htmlInput: { maxLength: LONGEST_TEXT } }}
          onChange={(event) => letter({ text: event.target.value })}
          onBlur={settle}
        />
      </CardPart>
      <CardPart number={2} title="How it looks" line={face} open={open.looks} onToggle={toggle('looks')}>
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.25 }}>
          <TextField
            select
            size="small"
            label="Typeface"
            value={face}
            onChange={(event) => letter({ face: event.target.value })}
          >
            {FACES.map((name) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <ToggleButtonGroup
            exclusive
            fullWidth
            value={text.align}
            aria-label="Lines"
            onChange={(_, align: Text['align'] | null) => align && letter({ align })}
          >
            {ALIGNS.map(({ align, label }) => (
              <ToggleButton key={align} value={align}>
                {label}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <PxSlider
            label="Size"
            value={Math.round(text.sizePx)}
            min={SMALLEST_TEXT_PX}
            max={largest}
            onChange={(sizePx) => set({ sizePx })}
            onSettled={settle}
          />
          <PxSlider
            label="Line height"
            unit=""
            value={text.lineHeight}
            min={0.8}
            max={2}
            step={0.05}
            onChange={(lineHeight) => letter({ lineHeight })}
            onSettled={settle}
          />
          <PxSlider
            label="Strength"
            unit="%"
            value={Math.round(100 * text.opacity)}
            min={5}
            max={100}
            onChange={(percent) => set({ opacity: percent / 100 })}
            onSettled={settle}
          />
          <TextField
            type="color"
            size="small"
            label="Colour"
            value={text.colour}
            slotProps={{ inputLabel: { shrink: true } }}
            onChange={(event) => set({ colour: event.target.value })}
            onBlur={settle}
          />
        </Box>
      </CardPart>
      <CardPart
        number={3}
        title="Where it stands"
        line={`${text.x}, ${text.y} px`}
        open={open.place}
        onToggle={toggle('place')}
      >
        <Typography variant="caption" color="text.secondary" component="p" sx={{ mb: 1 }}>
          Drag it on the picture, or put it in its place.
        </Typography>
        <Box role="group" aria-label="Place" sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 0.5 }}>
          {PLACES.map(([label, across, down]) => (
            <Button
              key={label}
              size="small"
              sx={{ px: 0.5, whiteSpace: 'nowrap' }}
              onClick={() => {
                settle();
                set(placed(text, photo, across, down));
              }}
            >
              {label}
            </Button>
          ))}
        </Box>
        <BehindField text={text} onChange={(behind) => set({ behind })} />
      </CardPart>
      <Box sx={{ p: 2 }}>
        <Button
          fullWidth
          variant="contained"
          color="primary"
          disabled={working || text.outline === '' || trouble !== ''}
          onClick={() => void desk.useAsItIs()}
        >
          Use this text
        </Button>
      </Box>
    </>
  );
}

const NOTHING = 'nothing';
const ON_SUBJECTS = 'mark';

/** What stays in front of the letters: the mark that waits on Subjects, or one that was kept by name. */
function BehindField({ text, onChange }: { text: Text; onChange: (mark: Mark | undefined) => void }) {
  const kept = useAppSelector((state) => state.bench.project!.keptMarks);
  const waiting = useAppSelector((state) => state.bench.project!.asideDraft);
  const choices = new Map(kept.filter(({ view }) => !view).map(({ name, mark }) => [`kept ${name}`, { name, mark }]));
  if (waiting && isMarked(waiting))
    choices.set(ON_SUBJECTS, { name: 'What is marked on Subjects', mark: waiting.mark });
  // A subject's slack is not the subject: the letters reach up to its own outline.
  const tight = (mark: Mark): Mark => ({ ...mark, growPx: Math.min(0, mark.growPx) });
  const chosen = [...choices].find(([, { mark }]) => mark.shapes === text.behind?.shapes)?.[0];
  const isOther = text.behind !== undefined && chosen === undefined;
  return (
    <TextField
      select
      fullWidth
      size="small"
      label="Behind"
      sx={{ mt: 1.5 }}
      value={isOther ? 'other' : (chosen ?? NOTHING)}
      helperText={choices.size === 0 ? 'Mark a thing on Subjects, and text can stand behind it.' : undefined}
      onChange={({ target }) => {
        const choice = choices.get(target.value);
        if (target.value !== 'other') onChange(choice && tight(choice.mark));
      }}
    >
      <MenuItem value={NOTHING}>Nothing: in front of everything</MenuItem>
      {[...choices].map(([value, { name }]) => (
        <MenuItem key={value} value={value}>
          {name}
        </MenuItem>
      ))}
      {isOther && <MenuItem value="other">What was chosen before</MenuItem>}
    </TextField>
  );
}

/** The block's corner when it takes so much of the room beside and above it. */
function placed({ block, sizePx }: Text, photo: Size, across: number, down: number): Pick<Text, 'x' | 'y'> {
  const along = (side: number, length: number, share: number): number => {
    const margin = TEXT_MARGIN * side;
    return Math.round(margin + share * (side - 2 * margin - (length * sizePx) / UNITS_PER_EM));
  };
  return { x: along(photo.width, block.width, across), y: along(photo.height, block.height, down) };
}

/** Changes what is written and in which letters, the outline with it. */
function useLettering(text: Text, { slide }: Setting<Text>) {
  const [trouble, setTrouble] = useState('');
  const wanted = useRef(0);
  const letter = (change: Partial<Pick<Text, 'text' | 'face' | 'align' | 'lineHeight'>>): void => {
    slide(change);
    const next = { ...text, ...change };
    const mine = ++wanted.current;
    const outline = async (): Promise<void> => {
      const face = await openFace(next.face);
      const { outlineText } = await import('../../../formats/lettering/outlineText.ts');
      const outlined = outlineText(next.text, face, next);
      if (mine !== wanted.current) return;
      slide(outlined);
      setTrouble('');
    };
    outline().catch((error: unknown) => mine === wanted.current && setTrouble(serialiseError(error).message));
  };
  // The typeface is there when the first letter is typed.
  useEffect(() => void openFace('').catch(() => undefined), []);
  return { letter, trouble };
}
