import type { Progress, Task } from '../core/progress.ts';

/** Who waits for a long computation: told how far it is, and able to stop it. */
export interface Watch {
  signal?: AbortSignal;
  onProgress?(progress: Progress): void;
}

/** Tells a stage that is no task. */
export const report = ({ onProgress }: Watch, stage: string, share: number): void => onProgress?.({ stage, share });

/** How long a computation may stay deaf to a cancel. */
const TURN_MS = 30;

/** Lets messages in. */
export const nextTurn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

/** Runs a task to its end, giving the event loop a turn now and then. Throws the signal's reason when it is stopped. */
export async function perform<Result>(task: Task<Result>, { signal, onProgress }: Watch = {}): Promise<Result> {
  let lastTurn = performance.now();
  for (;;) {
    signal?.throwIfAborted();
    const step = task.next();
    if (step.done) return step.value;
    onProgress?.(step.value);
    if (performance.now() - lastTurn < TURN_MS) continue;
    await nextTurn();
    lastTurn = performance.now();
  }
}
