import { expose, type Remote } from 'comlink';
import { openWorker } from '../src/workers/openWorker';

interface Far {
  take: (listener: (n: number) => void) => void;
  tell: (n: number) => Promise<void>;
}

/** A worker that is the other end of a channel in the same thread. */
function worker() {
  const { port1, port2 } = new MessageChannel();
  let kept: Remote<(n: number) => void> | null = null;
  const far: Far = {
    take: (listener) => {
      kept = listener as unknown as typeof kept;
    },
    tell: async (n) => {
      await kept!(n);
    },
  };
  expose(far, port2);
  port1.start();
  const near = Object.assign(port1, {
    terminate: () => {
      port1.close();
    },
  });
  return near as unknown as Worker;
}

/** Ends of channels that are made from here on, with whether each is closed. */
function channels() {
  const made: { closed: boolean }[] = [];
  const Real = globalThis.MessageChannel;
  jest.spyOn(globalThis, 'MessageChannel').mockImplementation(() => {
    const channel = new Real();
    const end = { closed: false };
    made.push(end);
    channel.port1.addEventListener('close', () => (end.closed = true));
    return channel;
  });
  return made;
}

test('what a worker may call is heard until it is closed; then the channel is closed too', async () => {
  const near = worker();
  const opened = openWorker<Far>(near);
  const made = channels();
  const heard: number[] = [];
  await opened.call.take(opened.called((n: number) => void heard.push(n)));
  await opened.call.tell(3);
  await opened.call.tell(4);
  expect(heard).toEqual([3, 4]);
  expect(made).toEqual([{ closed: false }]);
  opened.close();
  while (!made[0]!.closed) await new Promise((resolve) => setImmediate(resolve));
  expect(made).toHaveLength(1);
  // What is registered of a worker holds it, and with it all that hears when it fails.
  expect(near.onerror).toBeNull();
});
