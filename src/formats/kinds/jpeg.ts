import { bySignature, type PictureFormat } from '../format.ts';
import { latin, startsWith, uprightExif } from '../metadata/exif.ts';
import type { FileMetadata } from '../metadata/fileMetadata.ts';
import { addJpegSegments, joinBytes, readJpegSegments } from '../metadata/jpegSegments.ts';

const APP1 = 0xe1;
const XMP_NAME = 'http://ns.adobe.com/xap/1.0/\0';
const EXIF_NAME = 'Exif\0\0';

/** ISO/IEC 10918-1, with metadata as Exif 2.3 and ISO 16684-1 lay them down. */
export const jpeg: PictureFormat = {
  name: 'JPEG',
  mediaType: 'image/jpeg',
  endings: ['.jpg', '.jpeg'],
  recognise: bySignature('jpg'),
  writer: {
    about: 'Small, for sending and for the web. Lower quality, smaller file.',
    isLossy: true,
    hasAlpha: false,
    isOffered: true,
    sharp: { format: 'jpeg', options: { quality: 92, chromaSubsampling: '4:4:4' } },
  },
  metadata: {
    read(file) {
      const read = readJpegSegments(file);
      if (!read) return undefined;
      const found: FileMetadata = {};
      for (const { marker, body } of read.segments) {
        if (marker !== APP1) continue;
        if (startsWith(body, XMP_NAME)) found.xmp ??= new TextDecoder().decode(body.subarray(XMP_NAME.length));
        if (startsWith(body, EXIF_NAME)) found.exif ??= body.subarray(EXIF_NAME.length);
      }
      return found;
    },
    write: (file, { xmp, exif }) =>
      addJpegSegments(file, [
        ...(exif ? [{ marker: APP1, body: joinBytes([latin(EXIF_NAME), uprightExif(exif)]) }] : []),
        ...(xmp === undefined
          ? []
          : [{ marker: APP1, body: joinBytes([latin(XMP_NAME), new TextEncoder().encode(xmp)]) }]),
      ]),
  },
};
