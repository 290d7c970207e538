import { FingoError, serialiseError } from './errors.ts';
import { drain, within, type Task } from './progress.ts';

test('an error of ours keeps code and sentence; any other says that nothing was changed', () => {
  expect(serialiseError(new FingoError('no-donors', 'Mark less.'))).toEqual({
    code: 'no-donors',
    message: 'Mark less.',
  });
  const unknown = serialiseError(new TypeError('x is undefined'));
  expect(unknown.code).toBe('internal');
  expect(unknown.message).toMatch(/x is undefined.*nothing was changed/);
});

test('a part of a longer task reports shares within its part', () => {
  function* task(): Task<string> {
    yield { stage: 'a', share: 0 };
    yield { stage: 'b', share: 0.5 };
    return 'done';
  }
  const shares: number[] = [];
  expect(drain(within(task(), 0.2, 0.6), ({ share }) => shares.push(share))).toBe('done');
  expect(shares).toEqual([0.2, 0.4]);
});
