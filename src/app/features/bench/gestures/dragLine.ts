import type { RunOnParams } from '../../../../operations/rebuild/rebuildSchema.ts';
import { withHandle, type LineHandle } from '../runOn.ts';
import type { Gesture } from './gesture.ts';

/** Drags a point of a line, or bends it between two; a touch leaves it as it is. */
export function dragLine(
  lines: readonly RunOnParams[],
  handle: LineHandle,
  onDone: (lines: RunOnParams[]) => void,
): Gesture {
  let moved: RunOnParams[] | undefined;
  return {
    move: (point) => void (moved = withHandle(lines, handle, point)),
    end: () => moved && onDone(moved),
    cancel: () => undefined,
    live: () => moved && { kind: 'runOn', lines: moved },
  };
}
