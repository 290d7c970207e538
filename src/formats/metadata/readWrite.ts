import { FORMATS } from '../formats.ts';
import type { FileMetadata } from './fileMetadata.ts';

/** The XMP packet and Exif data of a file; nothing for formats without, and for what can't be read. */
export function readFileMetadata(file: Uint8Array): FileMetadata {
  for (const { metadata } of FORMATS) {
    const found = metadata?.read(file);
    if (found) return found;
  }
  return {};
}

/** A freshly made file with metadata, where its format takes any. */
export function withFileMetadata(file: Uint8Array<ArrayBuffer>, told: FileMetadata): Uint8Array<ArrayBuffer> {
  if (told.xmp === undefined && !told.exif) return file;
  const { metadata } = FORMATS.find((format) => format.metadata?.read(file)) ?? {};
  return metadata?.write(file, told) ?? file;
}
