import { rayThrough } from '../../../../core/panorama/camera.ts';
import { cameraOf } from '../../../../core/sphere/sphereView.ts';
import { turnByLine } from '../../../kinds/turnSphere/levelBy.ts';
import { AHEAD, describeDirection, dragged, turned, viewLookedAt } from './looking.ts';

const SCREEN = { width: 800, height: 600 };
const SPHERE = { width: 4096, height: 2048 };

test('one turns round and round, but not over the poles, and not closer or wider than can be seen', () => {
  expect(turned(AHEAD, { yaw: 190 }).yaw).toBe(-170);
  expect(turned(AHEAD, { yaw: -540 }).yaw).toBe(-180);
  expect(turned(AHEAD, { pitch: -120, fov: 500 })).toEqual({ yaw: 0, pitch: -90, fov: 120 });
  expect(turned(AHEAD, { fov: 1 }).fov).toBe(20);
});

test('what a drag takes hold of stays under the hand', () => {
  const after = dragged(AHEAD, 40, 0, SCREEN.width);
  // What was in the middle lies 40 px to the right now.
  const ray = [0, 0, 0];
  rayThrough(440, 300, SCREEN, cameraOf({ ...after, roll: 0, ...SCREEN }), ray);
  expect((Math.atan2(ray[0]!, ray[2]!) * 180) / Math.PI + after.yaw).toBeCloseTo(0, 0);
  expect(dragged(AHEAD, 0, 30, SCREEN.width).pitch).toBeGreaterThan(0);
});

test('a direct view looks where one looked, at the ratio of the screen', () => {
  const view = viewLookedAt({ yaw: 12.3456, pitch: -90, fov: 104 }, SCREEN, SPHERE);
  expect(view).toMatchObject({ yaw: 12.35, pitch: -90, roll: 0, fov: 104 });
  expect(view.width / view.height).toBeCloseTo(4 / 3, 2);
});

test.each([
  [{ yaw: 40, pitch: -90, fov: 100 }, 'Straight down, 100° wide'],
  [{ yaw: 0, pitch: 0, fov: 90 }, 'Ahead, 90° wide'],
  [{ yaw: -30.4, pitch: 12, fov: 60 }, '30° to the left, 12° up, 60° wide'],
])('a direction is told in words', (direction, words) => {
  expect(describeDirection(direction)).toBe(words);
});

test('a line drawn along a leaning horizon makes it level', () => {
  const level = { yaw: 0, pitch: 0, roll: 0 };
  // Falling to the right by 1 in 10.
  const turn = turnByLine({ x: 300, y: 290 }, { x: 500, y: 310 }, AHEAD, SCREEN, level);
  expect(turn.roll).toBeCloseTo((-Math.atan(0.1) * 180) / Math.PI, 1);
  expect(Math.abs(turn.yaw) + Math.abs(turn.pitch)).toBeLessThan(0.5);
  // A quarter round, the same makes it tilt.
  const aside = turnByLine({ x: 300, y: 290 }, { x: 500, y: 310 }, turned(AHEAD, { yaw: 90 }), SCREEN, level);
  expect(Math.abs(aside.pitch)).toBeCloseTo((Math.atan(0.1) * 180) / Math.PI, 1);
  expect(Math.abs(aside.roll)).toBeLessThan(0.5);
  // A line that is level already changes nothing.
  expect(turnByLine({ x: 300, y: 300 }, { x: 500, y: 300 }, AHEAD, SCREEN, turn).roll).toBeCloseTo(turn.roll, 6);
});
