import type { Homography, Point } from '../geometry/homography.ts';

/** How a thing is drawn out: along straight parallel ways, or in perspective along ways that meet in one point. */
export interface PullWay {
  /**
   * How far along a place lies, in px at the thing's rear end: repeats are equally far apart, however small they are
   * drawn.
   */
  along(x: number, y: number): number;
  /** Which of the ways leads through a place; neighbouring ways are 1 apart where places are farthest apart. */
  across(x: number, y: number): number;
  /** By how many ways to each side a pixel reaches. */
  reach(x: number, y: number): number;
  /** Carries places on by so much along their ways. */
  carry(by: number): Homography;
}

/** Parallel ways in the direction of a pull. */
export function straightWay({ dx, dy }: { dx: number; dy: number }): PullWay {
  const length = Math.hypot(dx, dy);
  const [ax, ay] = [dx / length, dy / length];
  return {
    along: (x, y) => x * ax + y * ay,
    across: (x, y) => y * ax - x * ay,
    reach: () => 1,
    carry: (by) => [1, 0, by * ax, 0, 1, by * ay, 0, 0, 1],
  };
}

/** The point where ways on a plane meet, and the plane's vanishing line through it: a x + b y + c = 0, a^2 + b^2 = 1. */
export interface Convergence {
  meeting: Point;
  line: readonly [a: number, b: number, c: number];
}

/**
 * Ways on a plane in perspective that meet in its vanishing point. Moving along them by equal lengths is an elation: it
 * leaves the plane's vanishing line as it is, and equal lengths make equal steps of one over the distance from that line
 * (R. Hartley, A. Zisserman: Multiple View Geometry, 2004, A7.3). `rear` is where px are measured; `isTowards` tells
 * whether the thing is drawn out towards the meeting point or away from it. `farthestPx` is how far from the meeting
 * point places lie at most.
 */
export function perspectiveWay(
  { meeting, line: [a, b, c] }: Convergence,
  rear: Point,
  isTowards: boolean,
  farthestPx: number,
): PullWay {
  const fromLine = (x: number, y: number): number => a * x + b * y + c;
  const side = Math.sign(fromLine(rear.x, rear.y));
  const direction = isTowards ? 1 : -1;
  const toMeeting = Math.hypot(rear.x - meeting.x, rear.y - meeting.y);
  const unit = Math.abs(fromLine(rear.x, rear.y)) * toMeeting;
  const middle = Math.atan2(rear.y - meeting.y, rear.x - meeting.x);
  return {
    along: (x, y) => {
      const distance = side * fromLine(x, y);
      return distance > 0 ? (direction * unit) / distance : direction * Infinity;
    },
    across: (x, y) => {
      const angle = Math.atan2(y - meeting.y, x - meeting.x) - middle;
      return farthestPx * Math.atan2(Math.sin(angle), Math.cos(angle));
    },
    reach: (x, y) => farthestPx / Math.max(1, Math.hypot(x - meeting.x, y - meeting.y)),
    carry(by) {
      const { x, y } = meeting;
      const slope = (direction * side * by) / unit;
      const [p, q, r] = [slope * a, slope * b, slope * c];
      return [1 + x * p, x * q, x * r, y * p, 1 + y * q, y * r, p, q, 1 + r];
    },
  };
}
