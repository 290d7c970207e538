import type { PictureDesk } from '../../desk/pictureDesk.ts';
import type { ShownPicture } from '../../../workers/picture.worker.ts';

/** Longer side of a project's small picture. */
export const THUMBNAIL_PX = 520;

export const makeThumbnail = (picture: PictureDesk, shown: ShownPicture): Promise<Blob> =>
  picture.thumbnail(shown, THUMBNAIL_PX);
