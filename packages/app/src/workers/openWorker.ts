import {
  expose,
  proxy,
  proxyMarker,
  releaseProxy,
  transferHandlers,
  wrap,
  type ProxyMarked,
  type Remote,
} from 'comlink';
import { watchSigns } from './signs';

/** Our ends of the channels by which workers call what was given to them. */
const ends = new WeakMap<object, MessagePort>();

// As the package has it, but the end is known: an open one holds all that its function reaches, and the worker that
// would close the other is ended without being asked.
transferHandlers.set('proxy', {
  canHandle: (value): value is ProxyMarked =>
    (typeof value === 'object' || typeof value === 'function') &&
    value !== null &&
    proxyMarker in value,
  serialize(given: object) {
    const { port1, port2 } = new MessageChannel();
    ends.set(given, port1);
    expose(given, port1);
    return [port2, [port2]];
  },
  deserialize(port: MessagePort) {
    port.start();
    return wrap(port);
  },
});

/** A worker of ours: its methods are called as promises. */
export interface OpenWorker<T> {
  readonly call: Remote<T>;
  /** The result of a call, or why the worker has died meanwhile. */
  ask: <R>(answer: Promise<R>) => Promise<R>;
  /** A function that the worker may call for as long as it is open. */
  called: <F extends object>(listener: F) => F & ProxyMarked;
  close: () => void;
}

/** A worker failed outside of what it was asked, or gave no sign of life any more; what it was asked has no answer. */
export class WorkerDied extends Error {
  override readonly name = 'WorkerDied';
}

/**
 * The one way in which the interface speaks with its workers.
 *
 * @param died is told when the worker fails outside of a call, or is ended because it is silent
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
  const endWatch = watchSigns(worker, () => {
    worker.terminate();
    const message = 'it gave no sign of life for three seconds';
    fail(new WorkerDied(message));
    died(message);
  });
  const given: object[] = [];
  const call = wrap<T>(worker);
  return {
    call,
    ask: (answer) => Promise.race([answer, failure]),
    called: (listener) => {
      given.push(listener);
      return proxy(listener);
    },
    close: () => {
      // What is left of it would hold all that hears of it.
      worker.onerror = null;
      endWatch();
      call[releaseProxy]();
      worker.terminate();
      for (const listener of given.splice(0)) ends.get(listener)?.close();
    },
  };
}
