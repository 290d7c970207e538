import { bySignature, type PictureFormat } from '../format.ts';

/** RFC 9649. */
export const webp: PictureFormat = {
  name: 'WebP',
  mediaType: 'image/webp',
  endings: ['.webp'],
  recognise: bySignature('webp'),
  writer: {
    about: 'Smaller than JPEG at the same quality; not every program reads it.',
    isLossy: true,
    hasAlpha: true,
    isOffered: false,
    sharp: { format: 'webp', options: { quality: 92 } },
  },
};
