import { maskFromRows, maskOf } from '../../../tests/support/pictures.ts';
import { besideSubject } from './besideSubject.ts';

const SIZE = { width: 24, height: 16 };

test('what was found small is enlarged with a rim, and leaves the subject out', () => {
  const found = maskFromRows(
    '............',
    '............',
    '............',
    '....#.......',
    ...Array<string>(4).fill('............'),
  );
  const subject = maskOf(24, 16, (x) => x < 8);
  const beside = besideSubject(found, SIZE, subject, 2);
  // The pixel stands for x = 8, 9 and y = 6, 7; two small pixels of rim are four of the picture.
  expect(beside.data[7 * 24 + 8]).toBe(255);
  expect(beside.data[7 * 24 + 12]).toBe(255);
  expect(beside.data[7 * 24 + 16]).toBe(0);
  expect(beside.data[7 * 24 + 7]).toBe(0);
  expect(beside.data[15 * 24 + 8]).toBe(0);
});

test('where a subject is soft, as much is left as it does not cover', () => {
  const found = maskOf(12, 8, () => true);
  const subject = maskOf(24, 16, () => false);
  subject.data[100] = 100;
  expect(besideSubject(found, SIZE, subject, 2).data[100]).toBe(155);
});
