/** The last write under way, whoever started it: what is read before it is done may be old. */
let lastWrite: Promise<void> = Promise.resolve();

/** Settles once everything that was to be saved is saved. */
export const savesSettled = (): Promise<void> => lastWrite;

/** Writes after all that is being written. Must not reject. */
export function writeNext(write: () => Promise<void>): Promise<void> {
  lastWrite = lastWrite.then(write);
  return lastWrite;
}
