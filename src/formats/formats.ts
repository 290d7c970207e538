import type { FormatWriter, PictureFormat } from './format.ts';
import { avif } from './kinds/avif.ts';
import { jpeg } from './kinds/jpeg.ts';
import { png } from './kinds/png.ts';
import { webp } from './kinds/webp.ts';

/** Every format that Fingo reads or writes, in the order in which they are offered; a new one is one file and one line. */
export const FORMATS: readonly PictureFormat[] = [jpeg, png, webp, avif];

export type WritableFormat = PictureFormat & { writer: FormatWriter };

const isWritable = (format: PictureFormat): format is WritableFormat => format.writer !== undefined;

/** Those that pictures are written in. */
export const WRITABLE: readonly WritableFormat[] = FORMATS.filter(isWritable);

/** The one in which every pixel is kept, transparency included. */
export const LOSSLESS: WritableFormat = WRITABLE.find(({ writer }) => !writer.isLossy && writer.hasAlpha)!;

/** "JPEG, PNG or WebP". */
export function inWords(formats: readonly PictureFormat[]): string {
  const names = formats.map(({ name }) => name);
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} or ${names.at(-1)}` : (names[0] ?? '');
}

/** ".jpg, .png or .webp". */
export const endingsInWords = (): string => inWords(WRITABLE.map((format) => ({ ...format, name: format.endings[0] })));
