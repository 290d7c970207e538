import { bySignature, type PictureFormat } from '../format.ts';
import { latin, startsWith, uprightExif } from '../metadata/exif.ts';
import type { FileMetadata } from '../metadata/fileMetadata.ts';
import { joinBytes } from '../metadata/jpegSegments.ts';
import { addPngChunks, readPngChunks } from '../metadata/pngChunks.ts';

const XMP_NAME = 'XML:com.adobe.xmp';

/** Where the text of an uncompressed iTXt chunk begins: after its language and translated keyword. */
function textStart(body: Uint8Array): number {
  const language = XMP_NAME.length + 3;
  const translated = body.indexOf(0, language) + 1;
  return body.indexOf(0, translated) + 1;
}

/** W3C, Portable Network Graphics (third edition), with metadata in its eXIf and iTXt chunks. */
export const png: PictureFormat = {
  name: 'PNG',
  mediaType: 'image/png',
  endings: ['.png'],
  recognise: bySignature('png'),
  writer: {
    about: 'Every pixel exactly as on the Bench; large.',
    isLossy: false,
    hasAlpha: true,
    isOffered: true,
    sharp: { format: 'png', options: { compressionLevel: 6 } },
  },
  metadata: {
    read(file) {
      const chunks = readPngChunks(file);
      if (!chunks) return undefined;
      const found: FileMetadata = {};
      for (const { type, body } of chunks) {
        if (type === 'eXIf') found.exif ??= body;
        // Keyword, 0, not compressed, language and translated keyword empty.
        if (type === 'iTXt' && startsWith(body, `${XMP_NAME}\0\0\0`)) {
          found.xmp ??= new TextDecoder().decode(body.subarray(textStart(body)));
        }
      }
      return found;
    },
    write: (file, { xmp, exif }) =>
      addPngChunks(file, [
        ...(exif ? [{ type: 'eXIf', body: uprightExif(exif) }] : []),
        ...(xmp === undefined
          ? []
          : [{ type: 'iTXt', body: joinBytes([latin(`${XMP_NAME}\0\0\0\0\0`), new TextEncoder().encode(xmp)]) }]),
      ]),
  },
};
