import { imageSize } from 'image-size';
import { FingoError } from '../core/errors.ts';
import type { Size } from '../core/image/rect.ts';
import type { PictureFormat } from './format.ts';
import { FORMATS, inWords } from './formats.ts';
import { MAX_FILE_BYTES, MAX_MEGAPIXELS } from './limits.ts';

const RAW_NAMES = /\.(heic|heif|cr2|cr3|nef|arw|raf|orf|rw2|dng|pef|srw)$/i;

export interface SniffedPicture {
  format: PictureFormat;
  /** As stored, before the orientation tag is honoured. */
  width: number;
  height: number;
}

/**
 * Reads type and size from a file's first bytes, without decoding. Throws `unsupported-file`, `unreadable-file` or
 * `picture-too-large`, each with one sentence that says what to do.
 */
export function sniffPicture(bytes: Uint8Array, name: string): SniffedPicture {
  if (bytes.length === 0) {
    throw new FingoError('unreadable-file', `"${name}" is empty; save the picture again from its source.`);
  }
  if (bytes.length > MAX_FILE_BYTES) {
    throw new FingoError(
      'picture-too-large',
      `"${name}" is larger than 400 MB; save it smaller, as JPEG for instance.`,
    );
  }
  const { format, size } = recognised(bytes);
  if (!format) {
    if (RAW_NAMES.test(name) || isHeic(bytes)) {
      throw new FingoError(
        'unsupported-file',
        `Fingo can't read raw or HEIC files like "${name}"; export the photo as JPEG or PNG and open that.`,
      );
    }
    throw new FingoError('unsupported-file', `"${name}" is not a ${inWords(FORMATS)} picture; open one of those.`);
  }
  const { width, height } = size;
  if (!width || !height) {
    throw new FingoError('unreadable-file', `"${name}" has no picture in it; save it again from its source.`);
  }
  const megapixels = (width * height) / 1e6;
  const most = Math.min(MAX_MEGAPIXELS, (format.maxPixels ?? Infinity) / 1e6);
  if (megapixels > most) {
    throw new FingoError(
      'picture-too-large',
      `"${name}" has ${width} x ${height} px (${Math.round(megapixels)} megapixels); ` +
        `Fingo opens up to ${most}. Save it smaller and open that.`,
    );
  }
  return { format, width, height };
}

type Recognised = { format: PictureFormat; size: Size } | { format: undefined; size?: undefined };

function recognised(bytes: Uint8Array): Recognised {
  for (const format of FORMATS) {
    const size = format.recognise(bytes);
    if (size) return { format, size };
  }
  return { format: undefined };
}

function isHeic(bytes: Uint8Array): boolean {
  try {
    return ['heic', 'heif'].includes(imageSize(bytes).type ?? '');
  } catch {
    return false;
  }
}

/** The sentence for a file whose header is right but whose pixels can't be decoded. */
export const brokenFile = (name: string): FingoError =>
  new FingoError(
    'unreadable-file',
    `"${name}" is damaged or ends in the middle; nothing was changed. Save it again from its source and open it once more.`,
  );
