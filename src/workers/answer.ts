import { FingoError, serialiseError, type SerialisedError } from '../core/errors.ts';

/** What a worker answers: errors of our own keep their code on the way out of it. */
export type Answer<T> = { ok: true; value: T } | { ok: false; error: SerialisedError };

export async function answer<T>(make: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await make() };
  } catch (error) {
    return { ok: false, error: serialiseError(error) };
  }
}

/** The value of an answer; throws its error. */
export function unwrap<T>(given: Answer<T>): T {
  if (given.ok) return given.value;
  throw new FingoError(given.error.code, given.error.message);
}
