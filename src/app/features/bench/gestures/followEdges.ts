import type { Combine } from '../../../../core/mask/combine.ts';
import { edgePointNear, edgeWayTo, type EdgeWindow } from '../../../../operations/marks/edgeWindow.ts';
import type { MarkShape } from '../../../../operations/marks/markSchema.ts';
import type { Point } from '../photo/viewport.ts';
import type { PointGesture } from './gesture.ts';
import { outlineShape } from './outlineShape.ts';

/** From one set point to the next: along edges, as soon as the ways from its start are known. */
interface Leg {
  from: Point;
  window?: EdgeWindow;
  /** Settles when the ways are known, or can't be. */
  ready: Promise<void>;
  /** Set when the next point is. */
  points?: Point[];
  to?: Point;
}

/** Distances in photo px. */
interface FollowOptions {
  /** How near the first point a touch closes the outline. */
  nearPx: number;
  /** How far a set point may be drawn onto an edge. */
  drawnPx: number;
  /** How far a point may lie off the way and be left out. */
  tolerancePx: number;
  /** The ways along edges from a point. */
  waysFrom(point: Point): Promise<EdgeWindow>;
  /** Called when what `live` gives has changed by itself. */
  repaint(): void;
}

/**
 * An outline that clings to the edges of the picture between the points that are set; one near the first closes it.
 * Where ways are not known yet, or can't be found, it runs straight.
 */
export function followEdges(
  start: Point,
  combine: Combine,
  { nearPx, drawnPx, tolerancePx, waysFrom, repaint }: FollowOptions,
  onDone: (shape: MarkShape) => void,
): PointGesture {
  const legFrom = (from: Point): Leg => {
    const leg: Leg = { from, ready: Promise.resolve() };
    leg.ready = waysFrom(from).then(
      (window) => {
        leg.window = window;
        if (leg.to) leg.points = edgeWayTo(window, leg.to);
        repaint();
      },
      () => undefined,
    );
    return leg;
  };
  const legs: Leg[] = [legFrom(start)];
  let hover = start;
  let closed = false;
  const last = (): Leg => legs.at(-1)!;
  const wayOf = ({ from, window }: Leg, to: Point): Point[] => (window ? edgeWayTo(window, to) : [from, to]);
  const finishLeg = (to: Point): void => {
    last().to = to;
    last().points = wayOf(last(), to);
  };
  const outline = (): Point[] => legs.flatMap((leg) => leg.points ?? wayOf(leg, hover));
  return {
    set(point) {
      const isNear = Math.hypot(point.x - start.x, point.y - start.y) <= nearPx;
      if (isNear) {
        closed = legs.length >= 2;
        return;
      }
      const { window } = last();
      const to = window ? edgePointNear(window, point, drawnPx) : point;
      finishLeg(to);
      legs.push(legFrom(to));
    },
    back() {
      if (legs.length < 2) return;
      legs.pop();
      delete last().to;
      delete last().points;
    },
    move: (point) => void (hover = point),
    goesOn: () => !closed,
    end() {
      if (legs.length < 2) return;
      finishLeg(start);
      void Promise.all(legs.map(({ ready }) => ready)).then(() => {
        const shape = outlineShape(outline(), combine, tolerancePx);
        if (shape) onDone(shape);
      });
    },
    cancel: () => undefined,
    live: () => ({
      kind: 'outline',
      points: outline().flatMap(({ x, y }) => [x, y]),
      set: legs.map(({ from }) => from),
    }),
  };
}
