import { PreviewSize } from '../src/engine/previewSize';

/** How large the preview is, by what frames cost: a frame of 30 a second has 33 ms. */

const BUDGET = 1000 / 30;

/** Frames that cost so much for motion and so much for each of 540 lines' pixels; how many until it changed. */
function play(size: PreviewSize, motion: number, pixels: number, most = 400): number {
  const before = size.lines;
  for (let frame = 1; frame <= most; frame++) {
    const cost = motion + pixels * (0.4 + 0.6 * (size.lines / 540) ** 2);
    size.learn(cost, motion, BUDGET);
    if (size.lines !== before) return frame;
  }
  return Infinity;
}

function fresh(room = 540): PreviewSize {
  const size = new PreviewSize();
  size.choose('auto', room);
  return size;
}

test('what fits stays as it is, and what is hardly late too', () => {
  expect(play(fresh(), 5, 20)).toBe(Infinity);
  expect(play(fresh(), 10, 32)).toBe(Infinity);
});

test('what a machine chokes on now and then is no reason to change', () => {
  const size = fresh();
  for (let frame = 0; frame < 400; frame++) size.learn(frame % 5 === 0 ? 140 : 15, 5, BUDGET);
  expect(size.lines).toBe(540);
});

test('late frames make it smaller, the sooner the slower they are', () => {
  const slow = fresh();
  const frames = play(slow, 10, 60);
  expect(slow.lines).toBeLessThan(540);
  const slower = fresh();
  // Three frames a second: after a second of warming and a few frames.
  expect(play(slower, 20, 300)).toBeLessThan(frames);
  expect(play(fresh(), 20, 300)).toBeLessThanOrEqual(12);
  expect(slower.lines).toBe(216);
});

test('it grows where there is room for more lines and time for them, and not beyond', () => {
  const size = fresh(1080);
  play(size, 1, 4);
  expect(size.lines).toBe(1080);
  const small = fresh(540);
  play(small, 1, 4);
  expect(small.lines).toBe(540);
});

test('motion that takes too long by itself leaves it at the least', () => {
  const size = fresh();
  play(size, 80, 20);
  expect(size.lines).toBe(216);
  // When motion is quick again, it comes back.
  play(size, 2, 20);
  expect(size.lines).toBeGreaterThan(216);
});

test('lines that were chosen are kept, whatever they cost', () => {
  const size = fresh();
  size.choose(720, 540);
  expect(play(size, 50, 500)).toBe(Infinity);
  expect(size.lines).toBe(720);
  expect(size.auto).toBe(false);
});
