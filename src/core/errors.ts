/** Every way in which Fingo refuses work. The code is stable; the message is for people. */
export type ErrorCode =
  | 'nothing-marked'
  | 'no-donors'
  | 'size-mismatch'
  | 'out-of-range'
  | 'outside-picture'
  | 'unreadable-file'
  | 'unsupported-file'
  | 'picture-too-large'
  | 'not-a-sphere'
  | 'invalid-recipe'
  | 'storage-full'
  | 'storage-unavailable'
  | 'not-found'
  | 'bad-arguments'
  | 'worker-lost'
  | 'step-failed'
  | 'out-of-memory'
  | 'internal';

/** The form in which an error crosses worker and HTTP boundaries. */
export interface SerialisedError {
  code: ErrorCode;
  message: string;
}

/** An error whose message tells what happened and what to do, in one sentence meant for the user. */
export class FingoError extends Error {
  readonly code: ErrorCode;

  constructor(code: ErrorCode, message: string) {
    super(message);
    this.name = 'FingoError';
    this.code = code;
  }
}

/** Turns anything thrown into its transferable form; unknown errors become `internal`. */
export function serialiseError(error: unknown): SerialisedError {
  if (error instanceof FingoError) return { code: error.code, message: error.message };
  const detail = error instanceof Error ? error.message : String(error);
  return { code: 'internal', message: `Something went wrong inside Fingo (${detail}); nothing was changed.` };
}
