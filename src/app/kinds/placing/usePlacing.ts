import type { Draft } from '../../../operations/draft.ts';
import type { Placing } from '../../../operations/rebuild/placingKind.ts';
import { useSetting } from '../../features/bench/useChange.ts';
import { useAppSelector } from '../../store/store.ts';

/** What a draft holds for a subject that is put elsewhere; only for drafts that do so. */
export const placingOf = ({ change }: Draft): Placing => change as unknown as Placing;

/** The subject's placing in the draft, and how it is changed. */
export function usePlacing() {
  const draft = useAppSelector((state) => state.bench.project!.draft);
  return { draft, own: placingOf(draft), ...useSetting<Placing>('place') };
}
