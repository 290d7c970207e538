import { UNITS_PER_EM } from '../../core/mask/outlinePath.ts';
import { parse, Path, type Font } from 'opentype.js';
import { FingoError } from '../../core/errors.ts';

/** A typeface as its files: what the first has no letter for is taken from the next. */
export type Face = readonly Font[];

export const readFace = (files: readonly ArrayBuffer[]): Face => files.map((file) => parse(file));

/** What the parser knows of pairs of letters; its published types leave it out. */
interface Pairs {
  getKerningTables(script: string): unknown[] | undefined;
  getKerningValue(tables: unknown[], left: number, right: number): number;
}

/** By how much the second of two letters moves, units of the font: by the pairs for Latin script, where it has them. */
function kerningOf(font: Font, left: number, right: number): number {
  const { position } = font as Font & { position?: Pairs };
  const tables = position?.getKerningTables('latn');
  if (position && tables) return position.getKerningValue(tables, left, right);
  return font.getKerningValue(font.glyphs.get(left), font.glyphs.get(right));
}

/** A text's outline (absolute M, L, Q, C, Z), UNITS_PER_EM to the letters' size, and its block's size in units. */
export interface OutlinedText {
  outline: string;
  block: { width: number; height: number };
}

/** How lines lie under each other; their height in letter sizes. */
export interface TextLayout {
  align: 'left' | 'centre' | 'right';
  lineHeight: number;
}

/**
 * The outline of a text in a typeface, line by line, kerned; from the top left corner of its block, UNITS_PER_EM to the
 * size of the letters. Throws `out-of-range` for a letter that the typeface does not have.
 */
export function outlineText(text: string, face: Face, { align, lineHeight }: TextLayout): OutlinedText {
  const lines = text.split('\n').map((line) => outlineLine(line, face));
  const width = lines.reduce((most, line) => Math.max(most, line.width), 0);
  const step = lineHeight * UNITS_PER_EM;
  const [{ ascender, descender, unitsPerEm }] = face as [Font];
  // Letters stand in the middle of their line.
  const baseline = (step + ((ascender + descender) * UNITS_PER_EM) / unitsPerEm) / 2;
  const outline = new Path();
  for (const [k, line] of lines.entries()) {
    const room = width - line.width;
    const left = align === 'left' ? 0 : align === 'right' ? room : room / 2;
    for (const { font, glyph, x } of line.letters) {
      outline.extend(font.glyphs.get(glyph).getPath(left + x, baseline + k * step, UNITS_PER_EM));
    }
  }
  return { outline: outline.toPathData(1), block: { width: Math.ceil(width), height: Math.ceil(lines.length * step) } };
}

interface Letter {
  font: Font;
  glyph: number;
  x: number;
}

function outlineLine(line: string, face: Face): { letters: Letter[]; width: number } {
  const letters: Letter[] = [];
  let width = 0;
  for (const letter of line.normalize('NFC')) {
    const font = face.find((each) => each.charToGlyphIndex(letter) > 0);
    if (!font) {
      throw new FingoError('out-of-range', `This typeface has no “${letter}”; choose another, or leave it out.`);
    }
    const scale = UNITS_PER_EM / font.unitsPerEm;
    const glyph = font.charToGlyphIndex(letter);
    const before = letters.at(-1);
    if (before?.font === font) {
      width += scale * kerningOf(font, before.glyph, glyph);
    }
    letters.push({ font, glyph, x: width });
    width += scale * (font.glyphs.get(glyph).advanceWidth ?? 0);
  }
  return { letters, width };
}
