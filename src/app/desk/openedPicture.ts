import type { PictureDesk } from './pictureDesk.ts';

/** The picture of a project that is opened next: decoding a large one takes seconds, and twice as long done twice. */
let kept: PictureDesk | undefined;

/** Keeps an open picture for who works on it next; one kept before is closed. */
export function keepOpened(picture: PictureDesk): void {
  closeOpened();
  kept = picture;
}

/** The kept picture if it has this key. Another one is closed. */
export function takeOpened(key: string): PictureDesk | undefined {
  const picture = kept;
  kept = undefined;
  if (picture?.source.key === key) return picture;
  picture?.close();
  return undefined;
}

/** Closes the kept picture: nobody works on it next. */
export function closeOpened(): void {
  kept?.close();
  kept = undefined;
}
