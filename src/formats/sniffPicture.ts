import { imageSize } from 'image-size';
import { FingoError } from '../core/errors.ts';
import { MOST_FILE_BYTES, MOST_MEGAPIXELS } from './limits.ts';

const READABLE = { jpg: 'image/jpeg', png: 'image/png', webp: 'image/webp', avif: 'image/avif' } as const;
const RAW_NAMES = /\.(heic|heif|cr2|cr3|nef|arw|raf|orf|rw2|dng|pef|srw)$/i;

export interface SniffedPicture {
  mediaType: (typeof READABLE)[keyof typeof READABLE];
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
  if (bytes.length > MOST_FILE_BYTES) {
    throw new FingoError(
      'picture-too-large',
      `"${name}" is larger than 400 MB; save it smaller, as JPEG for instance.`,
    );
  }
  const found = measured(bytes);
  const mediaType = found?.type && found.type in READABLE ? READABLE[found.type as keyof typeof READABLE] : undefined;
  if (!mediaType) {
    if (RAW_NAMES.test(name) || found?.type === 'heic' || found?.type === 'heif') {
      throw new FingoError(
        'unsupported-file',
        `Fingo can't read raw or HEIC files like "${name}"; export the photo as JPEG or PNG and open that.`,
      );
    }
    throw new FingoError('unsupported-file', `"${name}" is not a JPEG, PNG, WebP or AVIF picture; open one of those.`);
  }
  const { width, height } = found!;
  if (!width || !height) {
    throw new FingoError('unreadable-file', `"${name}" has no picture in it; save it again from its source.`);
  }
  const megapixels = (width * height) / 1e6;
  if (megapixels > MOST_MEGAPIXELS) {
    throw new FingoError(
      'picture-too-large',
      `"${name}" has ${width} x ${height} px (${Math.round(megapixels)} megapixels); ` +
        `Fingo opens up to ${MOST_MEGAPIXELS}. Save it smaller and open that.`,
    );
  }
  return { mediaType, width, height };
}

function measured(bytes: Uint8Array): { type?: string; width: number; height: number } | undefined {
  try {
    return imageSize(bytes);
  } catch {
    return undefined;
  }
}

/** The sentence for a file whose header is right but whose pixels can't be decoded. */
export const brokenFile = (name: string): FingoError =>
  new FingoError(
    'unreadable-file',
    `"${name}" is damaged or ends in the middle; nothing was changed. Save it again from its source and open it once more.`,
  );
