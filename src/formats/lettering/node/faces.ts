import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { FaceName } from '../faceNames.ts';
import { readFace, type Face } from '../outlineText.ts';

/** Where each typeface lies in its package; each has a file of the usual letters and one of further ones. */
const FILES: Record<FaceName, { package: string; style: string }> = {
  'Hanken Grotesk': { package: 'hanken-grotesk', style: '400-normal' },
  'Hanken Grotesk bold': { package: 'hanken-grotesk', style: '700-normal' },
  Lora: { package: 'lora', style: '400-normal' },
  'Lora italic': { package: 'lora', style: '400-italic' },
  'Lora bold': { package: 'lora', style: '700-normal' },
};

const { resolve } = createRequire(import.meta.url);

/** A typeface that ships with Fingo. */
export async function openFace(name: FaceName): Promise<Face> {
  const { package: from, style } = FILES[name];
  const read = async (letters: string): Promise<ArrayBuffer> => {
    const file = await readFile(resolve(`@fontsource/${from}/files/${from}-${letters}-${style}.woff`));
    return new Uint8Array(file).buffer;
  };
  return readFace([await read('latin'), await read('latin-ext')]);
}
