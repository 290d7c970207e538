import { FingoError } from '../../../core/errors.ts';
import type { CommandInput, StepCommand } from '../../kind.ts';
import { text } from './index.ts';

interface TextOptions {
  say?: string;
  face?: string;
  align?: 'left' | 'centre' | 'right';
  lineHeight?: number;
  at?: { dxPx: number; dyPx: number };
  size?: number;
  colour?: string;
  strength?: number;
  behind?: object;
}

export const command: StepCommand = {
  name: 'text',
  about: 'Lay a block of text on the photo, or behind what a mask marks in it.',
  isMarked: false,
  hasTakes: false,
  options: [
    { flags: '--say <text>', about: 'what it says; \\n begins a line', value: { is: 'text' }, required: true },
    { flags: '--face <name>', about: 'one of the typefaces that ship with Fingo', value: { is: 'text' } },
    { flags: '--align <how>', about: 'of its lines', value: { is: 'choice', of: ['left', 'centre', 'right'] } },
    {
      flags: '--line-height <factor>',
      about: 'from line to line, in letter sizes',
      value: { is: 'number', least: 0.7, most: 3 },
    },
    { flags: '--at <x,y>', about: 'px of its top left corner', value: { is: 'shift' } },
    { flags: '--size <px>', about: 'of the letters', value: { is: 'number', least: 4, most: 20_000 } },
    { flags: '--colour <#rrggbb>', about: 'of the letters', value: { is: 'text' } },
    { flags: '--strength <0..100>', about: 'how opaque they are', value: { is: 'number', least: 0, most: 100 } },
    {
      flags: '--behind <mask>',
      about: 'what stays in front of the letters',
      value: { is: 'mask', name: 'What is in front' },
    },
  ],
  async params(given, input) {
    const options: TextOptions = given;
    const usual = text.draft.begin(input.image, []);
    const words = options.say!.replaceAll('\\n', '\n');
    const layout = { align: options.align ?? usual.align, lineHeight: options.lineHeight ?? usual.lineHeight };
    const face = faceOf(options.face, input);
    return {
      params: {
        ...usual,
        ...layout,
        ...(await input.outlineText(words, face, layout)),
        text: words,
        face,
        ...(options.at && { x: options.at.dxPx, y: options.at.dyPx }),
        ...(options.size !== undefined && { sizePx: options.size }),
        ...(options.colour !== undefined && { colour: options.colour }),
        ...(options.strength !== undefined && { opacity: options.strength / 100 }),
        ...(options.behind && { behind: options.behind }),
      },
    };
  },
};

function faceOf(name: string | undefined, { faces }: CommandInput): string {
  if (name === undefined) return faces[0]!;
  if (faces.includes(name)) return name;
  throw new FingoError('bad-arguments', `There is no typeface "${name}"; use one of ${faces.join(', ')}.`);
}
