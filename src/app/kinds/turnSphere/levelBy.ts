import { anglesOf, rayThrough, turnDirection, type Direction as Ray } from '../../../core/panorama/camera.ts';
import { turnForLine } from '../../../core/panorama/straighten.ts';
import { multiplyHomographies } from '../../../core/geometry/homography.ts';
import type { Size } from '../../../core/image/rect.ts';
import { cameraOf } from '../../../core/sphere/sphereView.ts';
import { rotationOfTurn, type SphereTurn } from '../../../operations/kinds/turnSphere/index.ts';
import type { Direction } from '../../features/bench/around/looking.ts';

const DEGREES = 180 / Math.PI;

/** The turn of a sphere, turned already, that makes a line drawn on what is looked at level, or upright. */
export function turnByLine(
  from: { x: number; y: number },
  to: { x: number; y: number },
  looking: Direction,
  screen: Size,
  turn: SphereTurn,
): SphereTurn {
  const camera = cameraOf({ ...looking, roll: 0, ...screen });
  const rayOf = ({ x, y }: { x: number; y: number }): Ray => {
    const ray = [0, 0, 0];
    rayThrough(x, y, screen, camera, ray);
    return turnDirection(ray as [number, number, number], camera.rotation);
  };
  const further = turnForLine(rayOf(from), rayOf(to));
  const { yaw, pitch, roll } = anglesOf(multiplyHomographies(further, rotationOfTurn(turn)));
  return { yaw: yaw * DEGREES, pitch: pitch * DEGREES, roll: roll * DEGREES };
}
