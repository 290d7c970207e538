import { maskOf } from '../../../tests/support/pictures.ts';
import type { Mark, MarkShape } from './markSchema.ts';
import { markFromMask } from './renderMark.ts';
import { shadowOfMark, subjectOfMark } from './subjectOfMark.ts';

const [disc] = markFromMask(maskOf(20, 20, (x, y) => (x - 10) ** 2 + (y - 10) ** 2 < 25)).shapes;
const found = (as: 'subject' | 'shadow', combine: MarkShape['combine']): MarkShape =>
  disc?.kind === 'raster' ? { ...disc, found: as, combine } : disc!;
const lasso = (combine: MarkShape['combine']): MarkShape => ({ kind: 'lasso', combine, points: [0, 0, 9, 0, 9, 9] });
const marking = (...shapes: MarkShape[]): Mark => ({ shapes, growPx: 10, smoothPx: 2, featherPx: 1 });

const AS_FOUND = { growPx: 0, smoothPx: 0, featherPx: 0 };

test('a found subject is its own outline, without the slack and its shadow, less what was taken away', () => {
  const [subject, shadow, without] = [found('subject', 'startOver'), found('shadow', 'also'), lasso('without')];
  const own = subjectOfMark(marking(subject, shadow, without));
  expect(own).toEqual({ outline: { shapes: [subject, without], ...AS_FOUND }, loose: undefined });
});

test('what was drawn beside a found subject is told apart, with its slack', () => {
  const [subject, beside, without] = [found('subject', 'startOver'), lasso('also'), lasso('without')];
  expect(subjectOfMark(marking(subject, beside, without))).toEqual({
    outline: { shapes: [subject, without], ...AS_FOUND },
    loose: marking(beside, without),
  });
});

test('a found subject that was taken away is away from both', () => {
  const [subject, beside, away] = [found('subject', 'startOver'), lasso('also'), found('subject', 'without')];
  expect(subjectOfMark(marking(subject, beside, away))).toEqual({
    outline: { shapes: [subject, away], ...AS_FOUND },
    loose: marking(beside, away),
  });
});

test.each([
  ['a found subject was only taken away', marking(lasso('startOver'), found('subject', 'without'))],
  ['a loop was drawn', marking(lasso('startOver'))],
  ['nothing is marked', marking()],
  ['only a shadow is', marking(found('shadow', 'startOver'))],
  ['the mark is turned over', { ...marking(found('subject', 'startOver')), inverted: true }],
  ['only a band is', { ...marking(found('subject', 'startOver')), bandPx: 5 }],
])('where %s, the subject has still to be found', (_, mark) => {
  expect(subjectOfMark(mark)).toBeUndefined();
});

test('with a found shadow, a mark holds shadow there and in what was drawn, not around the found subject', () => {
  const [subject, shadow, more] = [found('subject', 'startOver'), found('shadow', 'also'), lasso('also')];
  const without = found('subject', 'without');
  expect(shadowOfMark(marking(subject, shadow, more, without))).toEqual(marking(shadow, more, without));
  expect(shadowOfMark(marking(subject, more))).toEqual(marking(subject, more));
});
