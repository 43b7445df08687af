import type { LiveEngine, Playback } from '@vast-swarm/core/play';
import { Truth } from '../src/engine/truth';

/** What is made right beside what plays, with a clock of the test's own. */

let now = 0;
beforeEach(() => {
  now = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => {
  jest.restoreAllMocks();
});

/** A playback whose states take so long to change places, which is asked after each step of 2 ms whether it is enough. */
function slowPlayback(swap: number): { playback: Playback; mended: number[] } {
  const mended: number[] = [];
  const mend = (enough: () => boolean): Promise<void> => {
    const begin = now;
    now += swap / 2;
    while (!enough()) now += 2;
    now += swap / 2;
    mended.push(now - begin);
    return Promise.resolve();
  };
  return { playback: { exact: false, mend } as unknown as Playback, mended };
}
const engine = { kind: 'cpu' } as LiveEngine;
const FRAME = 33;

test('it takes the time that playing leaves, and a little where that leaves none', async () => {
  const { playback, mended } = slowPlayback(1);
  const truth = new Truth(playback, engine);
  await truth.beside(21, FRAME);
  await truth.beside(0, FRAME);
  expect(mended[0]).toBeGreaterThan(18);
  expect(mended[0]).toBeLessThan(25);
  expect(mended[1]).toBeGreaterThan(1);
  expect(mended[1]).toBeLessThan(8);
});

test('where states take longer than a frame to change places, playing does not stutter for it, until the next edit', async () => {
  const { playback, mended } = slowPlayback(50);
  const truth = new Truth(playback, engine);
  for (let frame = 0; frame < 10; frame++) await truth.beside(10, FRAME);
  expect(mended).toHaveLength(1);
  truth.edited(100);
  await truth.beside(10, FRAME);
  expect(mended).toHaveLength(2);
});

test('after an edit it is made right at once where its steps are expected to take no longer', async () => {
  const { playback, mended } = slowPlayback(0);
  const truth = new Truth(playback, engine);
  truth.learn(2);
  truth.edited(100);
  const soon = jest.replaceProperty(Truth, 'soon', 150);
  await truth.atOnce();
  expect(mended).toHaveLength(0);
  truth.edited(100);
  soon.replaceValue(250);
  await truth.atOnce();
  expect(mended).toHaveLength(1);
  soon.restore();
});
