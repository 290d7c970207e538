import type { Size } from '../../../../core/image/rect.ts';
import { viewSize, type SphereView } from '../../../../core/sphere/sphereView.ts';

/** Where one looks on a sphere, degrees; `fov` from the left edge of the screen to the right. */
export interface Direction {
  yaw: number;
  pitch: number;
  fov: number;
}

export const NARROWEST = 20;
export const WIDEST = 120;
export const AHEAD: Direction = { yaw: 0, pitch: 0, fov: 90 };

const within = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value));
/** An angle brought between -180 and 180 degrees. */
const round = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180;

/** A direction with some of it changed, kept within what can be looked at. */
export function turned(from: Direction, change: Partial<Direction>): Direction {
  const { yaw, pitch, fov } = { ...from, ...change };
  return { yaw: round(yaw), pitch: within(pitch, -90, 90), fov: within(fov, NARROWEST, WIDEST) };
}

/** Turned by a drag of so many CSS px on a screen so wide: what was taken hold of stays under the hand. */
export function dragged(from: Direction, dx: number, dy: number, screenWidth: number): Direction {
  const focalPx = screenWidth / 2 / Math.tan((from.fov * Math.PI) / 360);
  const degrees = 180 / Math.PI / focalPx;
  // Near the poles a drag to the side turns farther round; over them it would spin.
  const across = Math.max(0.25, Math.cos((from.pitch * Math.PI) / 180));
  return turned(from, { yaw: from.yaw - (dx * degrees) / across, pitch: from.pitch + dy * degrees });
}

/** The direct view that is worked in when one looks there on a screen of this size. */
export function viewLookedAt({ yaw, pitch, fov }: Direction, screen: Size, sphere: Size): SphereView {
  const whole = (degrees: number): number => Math.round(degrees * 100) / 100;
  const angle = whole(fov);
  return {
    yaw: whole(yaw),
    pitch: whole(pitch),
    roll: 0,
    fov: angle,
    ...viewSize(angle, screen.width / screen.height, sphere),
  };
}

/** A direction in words, for people. */
export function describeDirection({ yaw, pitch, fov }: Direction): string {
  const wide = `${Math.round(fov)}° wide`;
  if (pitch <= -89) return `Straight down, ${wide}`;
  if (pitch >= 89) return `Straight up, ${wide}`;
  const side = Math.round(yaw) === 0 ? 'ahead' : `${Math.abs(Math.round(yaw))}° to the ${yaw < 0 ? 'left' : 'right'}`;
  const height = Math.round(pitch) === 0 ? '' : `, ${Math.abs(Math.round(pitch))}° ${pitch < 0 ? 'down' : 'up'}`;
  return `${side[0]!.toUpperCase()}${side.slice(1)}${height}, ${wide}`;
}
