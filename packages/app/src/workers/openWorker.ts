import { wrap, type Remote } from 'comlink';

/** A worker of ours: its methods are called as promises. */
export interface OpenWorker<T> {
  readonly call: Remote<T>;
  /** What a call gives, or why the worker has died meanwhile. */
  ask: <R>(answer: Promise<R>) => Promise<R>;
  close: () => void;
}

/** A worker failed outside of what it was asked; what it was asked has no answer. */
export class WorkerDied extends Error {
  override readonly name = 'WorkerDied';
}

/**
 * The one way in which the interface speaks with its workers.
 *
 * @param died is told when the worker fails outside of a call
 */
export function openWorker<T>(
  worker: Worker,
  died: (message: string) => void = () => undefined,
): OpenWorker<T> {
  let fail: (reason: Error) => void;
  const failure = new Promise<never>((_, reject) => (fail = reject));
  // Whoever asks hears of it; nobody has to.
  failure.catch(() => undefined);
  worker.onerror = (event) => {
    event.preventDefault();
    fail(new WorkerDied(event.message));
    died(event.message);
  };
  return {
    call: wrap<T>(worker),
    ask: (answer) => Promise.race([answer, failure]),
    close: () => {
      worker.terminate();
    },
  };
}
