import { SIGNS_EVERY, watchSigns } from '../src/workers/signs';

/** As much of a worker as signs come from. */
class Near extends EventTarget {
  says(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}

function watched() {
  const near = new Near();
  const silent = jest.fn();
  const end = watchSigns(near as unknown as Worker, silent);
  return { near, silent, end };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const pass = (seconds: number): void => {
  jest.advanceTimersByTime(1000 * seconds);
};

test('a worker is silent within three seconds of its last sign, and not within two; that is told once', () => {
  const { near, silent } = watched();
  near.says({ alive: 0 });
  pass(2);
  near.says({ alive: 0 });
  pass(2);
  expect(silent).not.toHaveBeenCalled();
  pass(1);
  expect(silent).toHaveBeenCalledTimes(1);
  pass(60);
  expect(silent).toHaveBeenCalledTimes(1);
});

test('a page that is held up, as by sleep, takes none of its workers for dead', () => {
  const { near, silent } = watched();
  near.says({ alive: 0 });
  // Hours by the clock, and one look.
  jest.setSystemTime(Date.now() + 8 * 3600 * 1000);
  pass(SIGNS_EVERY / 1000);
  near.says({ alive: 0 });
  pass(2);
  expect(silent).not.toHaveBeenCalled();
});

test('one that said how long it will be quiet has that time, though it gave a sign before it began', () => {
  const { near, silent } = watched();
  near.says({ alive: 10 });
  pass(0.5);
  near.says({ alive: 0 });
  pass(11);
  expect(silent).not.toHaveBeenCalled();
  pass(2);
  expect(silent).toHaveBeenCalledTimes(1);
});

test('one that said how long it will be quiet has that time, and no more', () => {
  const { near, silent } = watched();
  near.says({ alive: 10 });
  pass(12);
  expect(silent).not.toHaveBeenCalled();
  near.says({ alive: 0 });
  pass(3);
  expect(silent).toHaveBeenCalledTimes(1);
});

test('until its first sign a worker may be on its way; what it says to others is none', () => {
  const { near, silent } = watched();
  for (const said of [null, 'alive', { id: 3 }, { alive: 'yes' }]) near.says(said);
  pass(25);
  expect(silent).not.toHaveBeenCalled();
  pass(10);
  expect(silent).toHaveBeenCalledTimes(1);
});

test('nobody is told of a worker that is not watched any more', () => {
  const { silent, end } = watched();
  end();
  pass(60);
  expect(silent).not.toHaveBeenCalled();
});
