import type { DeskContext } from './deskContext.ts';
import type { DeskView } from './deskView.ts';

/** Something found by looking, for what changes while it is looked for: only what was asked for last is shown. */
export interface Latest<Wanted> {
  /** Looks for what belongs to `wanted`, unless that is what was asked for last; undefined: for nothing. */
  follow(wanted: Wanted | undefined): void;
  /** What was found no longer counts: it is looked for again when it is next followed. */
  forget(): void;
  /** Nothing is shown any more. */
  close(): void;
}

interface LatestOptions<Wanted> {
  /** `shown` shows what was found, as long as nothing else has been asked for since. */
  find(wanted: Wanted, shown: (found: Partial<DeskView>) => void, signal: AbortSignal): Promise<void>;
  /** When nothing is wanted any more. */
  none?(): void;
  isSame?(a: Wanted, b: Wanted): boolean;
}

export function createLatest<Wanted>(
  { show, tell }: Pick<DeskContext, 'show' | 'tell'>,
  { find, none, isSame = Object.is }: LatestOptions<Wanted>,
): Latest<Wanted> {
  let asked: { wanted: Wanted | undefined } | undefined;
  let looking = new AbortController();
  const isAsked = (wanted: Wanted | undefined): boolean => {
    if (!asked) return false;
    const { wanted: last } = asked;
    return last === undefined || wanted === undefined ? last === wanted : isSame(last, wanted);
  };
  return {
    follow(wanted) {
      if (isAsked(wanted)) return;
      asked = { wanted };
      looking.abort();
      if (wanted === undefined) {
        none?.();
        return;
      }
      looking = new AbortController();
      const { signal } = looking;
      const shown = (found: Partial<DeskView>): void => {
        if (!signal.aborted) show(found);
      };
      find(wanted, shown, signal).catch((error: unknown) => {
        if (!signal.aborted) tell(error);
      });
    },
    forget: () => void (asked = undefined),
    close: () => looking.abort(),
  };
}
