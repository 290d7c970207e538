import type { Size } from '../../../core/image/rect.ts';
import { scaleAt, type Mapping } from '../../following.ts';
import { followMarks } from '../../followMarks.ts';
import { defineKind } from '../../kind.ts';
import { isForOnePlace, originOf, requireInPicture } from './lettersFrame.ts';
import { SMALLEST_TEXT_PX, textSchema, type TextParams } from './schema.ts';

/** What of a text is shown in lists. */
const SHOWN_LETTERS = 24;
/** Text keeps so far from the picture's edges by itself, as a share of its sides. */
export const TEXT_MARGIN = 0.06;

const ownSchema = textSchema.omit({ take: true, view: true });

/** What a draft holds for a text. */
export type TextDraft = Omit<TextParams, 'take' | 'view'>;

/** A text on a picture of this size; as yet there is none. */
const noText = ({ width, height }: Size): TextDraft => ({
  text: '',
  face: '',
  align: 'left',
  lineHeight: 1.2,
  outline: '',
  block: { width: 0, height: 0 },
  x: Math.round(width * TEXT_MARGIN),
  y: Math.round(height * TEXT_MARGIN),
  sizePx: Math.max(8, Math.round(Math.min(width, height) / 14)),
  colour: '#ffffff',
  opacity: 1,
});

/** The block's corner stays where it is in the picture; the letters are as large in it as they were. */
function followed<T extends TextDraft>(text: T, by: Mapping): T {
  const at = by.to({ x: text.x, y: text.y });
  const sizePx = Math.max(SMALLEST_TEXT_PX, Math.min(20_000, text.sizePx * scaleAt(by, { x: text.x, y: text.y })));
  return { ...followMarks(text, by), x: Math.round(at.x), y: Math.round(at.y), sizePx };
}

/** A block of text laid on the picture, or behind what is marked in it. */
export const text = defineKind({
  type: 'text',
  version: 1,
  title: 'Text',
  schema: textSchema,
  strategies: ['as it is'],
  summarize({ text: words }) {
    const line = words.replaceAll(/\s+/g, ' ').trim();
    return `Text “${line.length > SHOWN_LETTERS ? `${line.slice(0, SHOWN_LETTERS)}…` : line}”`;
  },
  regions: () => [],
  layer: {
    content({ x, y, opacity: _, take: __, text: ___, face: ____, ...params }, photo) {
      const whole = { ...params, x, y } as TextParams;
      if (isForOnePlace(whole)) return { ...whole, photo: { width: photo.width, height: photo.height } };
      // Between whole px letters are smoothed otherwise.
      return { ...params, x: x - Math.floor(x), y: y - Math.floor(y) };
    },
    lies(params, photo) {
      requireInPicture(params, photo);
      const { x: dx, y: dy } = originOf(params);
      return { dx, dy, opacity: params.opacity };
    },
  },
  follow: followed,
  draft: {
    job: 'frame',
    isOffered: true,
    schema: ownSchema,
    begin: noText,
    toParams: (_draft, own) => own,
    toDraft: ({ take: _, view: __, ...own }) => ({ common: {}, own }),
    fromFlat: ({ text: own }) => own,
    missing: (_draft, { outline }) => (outline === '' ? 'Write something first.' : undefined),
    isPlain: () => true,
    marks: ({ behind }) => ({ behind }),
    remakesTakes: false,
    follow: followed,
  },
});
