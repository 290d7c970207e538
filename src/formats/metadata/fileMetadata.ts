import { addJpegSegments, joinBytes, readJpegSegments } from './jpegSegments.ts';
import { addPngChunks, readPngChunks } from './pngChunks.ts';

/** What a picture file tells beside its pixels. */
export interface FileMetadata {
  /** The XMP packet (ISO 16684-1). */
  xmp?: string;
  /** The Exif data, from their TIFF header on. */
  exif?: Uint8Array;
}

const APP1 = 0xe1;
const XMP_NAME = 'http://ns.adobe.com/xap/1.0/\0';
const EXIF_NAME = 'Exif\0\0';
const PNG_XMP_NAME = 'XML:com.adobe.xmp';
const ORIENTATION = 0x0112;

const latin = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const startsWith = (bytes: Uint8Array, text: string): boolean => latin(text).every((value, k) => bytes[k] === value);

/** The XMP packet and Exif data of a JPEG or PNG file; nothing for others and for what can't be read. */
export function readFileMetadata(file: Uint8Array): FileMetadata {
  const found: FileMetadata = {};
  for (const { marker, body } of readJpegSegments(file)?.segments ?? []) {
    if (marker !== APP1) continue;
    if (startsWith(body, XMP_NAME)) found.xmp ??= new TextDecoder().decode(body.subarray(XMP_NAME.length));
    if (startsWith(body, EXIF_NAME)) found.exif ??= body.subarray(EXIF_NAME.length);
  }
  for (const { type, body } of readPngChunks(file) ?? []) {
    if (type === 'eXIf') found.exif ??= body;
    // Keyword, 0, not compressed, language and translated keyword empty.
    if (type === 'iTXt' && startsWith(body, `${PNG_XMP_NAME}\0\0\0`)) {
      found.xmp ??= new TextDecoder().decode(body.subarray(textStart(body)));
    }
  }
  return found;
}

/** Where the text of an uncompressed iTXt chunk begins: after its language and translated keyword. */
function textStart(body: Uint8Array): number {
  const language = PNG_XMP_NAME.length + 3;
  const translated = body.indexOf(0, language) + 1;
  return body.indexOf(0, translated) + 1;
}

/** A freshly made JPEG or PNG file with metadata; its pixels stand upright, and so the Exif data say. */
export function withFileMetadata(file: Uint8Array<ArrayBuffer>, { xmp, exif }: FileMetadata): Uint8Array<ArrayBuffer> {
  if (xmp === undefined && !exif) return file;
  const packet = xmp === undefined ? undefined : new TextEncoder().encode(xmp);
  const upright = exif && uprightExif(exif);
  if (readJpegSegments(file)) {
    return addJpegSegments(file, [
      ...(upright ? [{ marker: APP1, body: joinBytes([latin(EXIF_NAME), upright]) }] : []),
      ...(packet ? [{ marker: APP1, body: joinBytes([latin(XMP_NAME), packet]) }] : []),
    ]);
  }
  return addPngChunks(file, [
    ...(upright ? [{ type: 'eXIf', body: upright }] : []),
    ...(packet ? [{ type: 'iTXt', body: joinBytes([latin(`${PNG_XMP_NAME}\0\0\0\0\0`), packet]) }] : []),
  ]);
}

/** Exif data whose orientation is upright (Exif 2.3, tag 0x0112 of the first directory). */
function uprightExif(exif: Uint8Array): Uint8Array {
  const out = exif.slice();
  const view = new DataView(out.buffer);
  if (out.length < 14) return out;
  const little = view.getUint16(0) === 0x4949;
  const directory = view.getUint32(4, little);
  if (directory + 2 > out.length) return out;
  const entries = view.getUint16(directory, little);
  for (let k = 0; k < entries; k++) {
    const at = directory + 2 + 12 * k;
    if (at + 12 > out.length) break;
    if (view.getUint16(at, little) === ORIENTATION) view.setUint16(at + 8, 1, little);
  }
  return out;
}
