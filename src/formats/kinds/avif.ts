import { bySignature, type PictureFormat } from '../format.ts';

/** AV1 Image File Format (Alliance for Open Media, 1.1); read only. */
export const avif: PictureFormat = {
  name: 'AVIF',
  mediaType: 'image/avif',
  endings: ['.avif'],
  recognise: bySignature('avif'),
};
