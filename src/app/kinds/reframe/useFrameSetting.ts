import type { FrameParams } from '../../../operations/kinds/reframe/schema.ts';
import { useSetting, type Setting } from '../../features/bench/useChange.ts';
import type { Margins } from './useFrameDraft.ts';

/** How the frame itself is changed. */
export function useFrameSetting(frame: FrameParams): Setting<FrameParams> {
  const { set, slide, settle } = useSetting<Margins>('frame');
  const merged = (change: Partial<FrameParams>): Partial<Margins> => ({ frame: { ...frame, ...change } });
  return { settle, set: (change) => set(merged(change)), slide: (change) => slide(merged(change)) };
}
