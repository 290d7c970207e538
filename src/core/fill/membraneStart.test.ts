import { levelOf } from '../../../tests/support/levels.ts';
import { membraneStart } from './membraneStart.ts';

const isHole = (x: number, y: number): boolean => x >= 10 && x < 20 && y >= 8 && y < 18;

test('a ramp runs on through the hole, and nothing known changes', () => {
  const ramp = (x: number, y: number): number => 40 + 4 * x + 2 * y;
  const level = levelOf(30, 26, (x, y) => (isHole(x, y) ? 0 : ramp(x, y)), isHole);
  const before = level.features.slice();
  membraneStart(level);
  for (let y = 0; y < 26; y++) {
    for (let x = 0; x < 30; x++) {
      const i = 4 * (y * 30 + x);
      if (isHole(x, y)) expect(Math.abs(level.features[i]! - ramp(x, y))).toBeLessThanOrEqual(1);
      else expect(level.features[i]).toBe(before[i]);
    }
  }
});
