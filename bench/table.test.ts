import { rankCorrelation } from './quality.ts';
import { toMarkdown, toText } from './table.ts';

const TABLE = {
  title: 'Times',
  about: 'By the clock.',
  columns: ['', 'ms'],
  rows: [
    ['small', 0.1234],
    ['large', 1234.5],
  ],
};

test('a table reads the same in a terminal and in a page', () => {
  expect(toMarkdown(TABLE).split('\n').slice(4)).toEqual([
    '|  | ms |',
    '| --- | ---: |',
    '| small | 0.123 |',
    '| large | 1235 |',
    '',
  ]);
  expect(toText(TABLE).split('\n').slice(2)).toEqual(['          ms', 'small  0.123', 'large   1235']);
});

test('rank correlation is 1 for the right order and -1 for the reverse', () => {
  expect(rankCorrelation([1, 2, 5, 9])).toBe(1);
  expect(rankCorrelation([9, 5, 2, 1])).toBe(-1);
});
