import hanken from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-400-normal.woff?url';
import hankenExt from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-ext-400-normal.woff?url';
import hankenBold from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-700-normal.woff?url';
import hankenBoldExt from '@fontsource/hanken-grotesk/files/hanken-grotesk-latin-ext-700-normal.woff?url';
import lora from '@fontsource/lora/files/lora-latin-400-normal.woff?url';
import loraExt from '@fontsource/lora/files/lora-latin-ext-400-normal.woff?url';
import loraItalic from '@fontsource/lora/files/lora-latin-400-italic.woff?url';
import loraItalicExt from '@fontsource/lora/files/lora-latin-ext-400-italic.woff?url';
import loraBold from '@fontsource/lora/files/lora-latin-700-normal.woff?url';
import loraBoldExt from '@fontsource/lora/files/lora-latin-ext-700-normal.woff?url';
import { faceNamed, type FaceName } from '../../../formats/lettering/faceNames.ts';
import type { Face } from '../../../formats/lettering/outlineText.ts';

/** The typefaces that ship with Fingo, and their files, most usual letters first. */
const FILES: Record<FaceName, readonly string[]> = {
  'Hanken Grotesk': [hanken, hankenExt],
  'Hanken Grotesk bold': [hankenBold, hankenBoldExt],
  Lora: [lora, loraExt],
  'Lora italic': [loraItalic, loraItalicExt],
  'Lora bold': [loraBold, loraBoldExt],
};

const opened = new Map<string, Promise<Face>>();

/** A typeface by its name; the first one for a name that is not known. */
export function openFace(name: string): Promise<Face> {
  const known = faceNamed(name);
  let face = opened.get(known);
  if (!face) {
    face = Promise.all([
      import('../../../formats/lettering/outlineText.ts'),
      ...FILES[known].map(async (url) => (await fetch(url)).arrayBuffer()),
    ]).then(([{ readFace }, ...files]) => readFace(files as ArrayBuffer[]));
    face.catch(() => opened.delete(known));
    opened.set(known, face);
  }
  return face;
}
