import { closeOpened, keepOpened, takeOpened } from './openedPicture.ts';
import type { PictureDesk } from './pictureDesk.ts';

let closed: string[];
/** A picture that tells when it is closed. */
const pictureOf = (key: string): PictureDesk =>
  ({ source: { key }, close: () => void closed.push(key) }) as unknown as PictureDesk;

beforeEach(() => {
  closeOpened();
  closed = [];
});

test('a kept picture is handed on once, open', () => {
  const quay = pictureOf('quay');
  keepOpened(quay);
  expect(takeOpened('quay')).toBe(quay);
  expect(takeOpened('quay')).toBeUndefined();
  expect(closed).toEqual([]);
});

test('who wants another picture does not get it, and it is closed', () => {
  keepOpened(pictureOf('quay'));
  expect(takeOpened('heron')).toBeUndefined();
  expect(closed).toEqual(['quay']);
});

test('of several only the last stays open, until nobody works on it', () => {
  for (const key of ['quay', 'heron', 'facade']) keepOpened(pictureOf(key));
  expect(closed).toEqual(['quay', 'heron']);
  closeOpened();
  expect(closed).toEqual(['quay', 'heron', 'facade']);
});
