import { maskFromRows } from '../../../tests/support/pictures.ts';
import { sweepMask } from './sweepMask.ts';

const dot = maskFromRows('........', '..#.....', '........', '........');

test('a swept mask covers the whole way, both ends included', () => {
  expect(sweepMask(dot, 4, 0)).toEqual(maskFromRows('........', '..#####.', '........', '........'));
  expect(sweepMask(dot, 0, -1)).toEqual(maskFromRows('..#.....', '..#.....', '........', '........'));
});

test('what is swept out of the picture ends at its edge', () => {
  expect(sweepMask(dot, -9, 0)).toEqual(maskFromRows('........', '###.....', '........', '........'));
});

test('swept by nothing it stays as it is', () => {
  expect(sweepMask(dot, 0, 0)).toEqual(dot);
});
