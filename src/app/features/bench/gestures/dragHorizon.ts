import type { Gesture } from './gesture.ts';

/** Drags the horizon up or down. */
export function dragHorizon(onDone: (y: number) => void): Gesture {
  let y: number | undefined;
  return {
    move: (point) => void (y = Math.round(point.y)),
    end: () => y !== undefined && onDone(y),
    cancel: () => undefined,
    live: () => (y === undefined ? undefined : { kind: 'horizon', y }),
  };
}
