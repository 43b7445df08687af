import { compilePiece } from '@vast-swarm/core/plan';
import { makePart } from '@vast-swarm/core/piece';
import { TrackNotReady, TrackReader } from '@vast-swarm/core/play';
import type { BlockTrack } from '@vast-swarm/core/kinds';
import { smallPiece } from '../../../tests/support/pieces';

/** A track of 4 numbers for each 10 frames, from afar or at hand; counts how often it is read. */
function track(name: string, afar: boolean): BlockTrack & { reads: number[] } {
  const reads: number[] = [];
  return {
    name,
    words: 4,
    reads,
    blockAt: (frame) => Math.floor(frame / 10),
    read: (block) => {
      reads.push(block);
      const values = new Float32Array(4).fill(block);
      return afar ? Promise.resolve(values) : values;
    },
  };
}

test('what comes from afar has to be ready; what is at hand is taken at once', async () => {
  const reader = new TrackReader();
  const [near, far] = [track('near', false), track('far', true)];
  expect(reader.take(near, 25)[0]).toBe(2);
  expect(() => reader.take(far, 25)).toThrow(TrackNotReady);
  await reader.ready([near, far], 25);
  expect(reader.take(far, 25)[3]).toBe(2);
  expect(() => reader.take(far, 30)).toThrow("'far' is not ready for frame 30");
});

test('a block is read once for all its frames, and the pre-roll has that of frame 0', async () => {
  const reader = new TrackReader();
  const far = track('far', true);
  for (let frame = -20; frame < 30; frame++) {
    await reader.ready([far], frame);
    expect(reader.take(far, frame)[0]).toBe(Math.max(0, Math.floor(frame / 10)));
  }
  expect(far.reads).toEqual([0, 1, 2]);
});

test('within the budget nothing is read again; beyond it the longest unused goes first', async () => {
  const reader = new TrackReader(3 * 16);
  const far = track('far', true);
  for (const frame of [0, 10, 20, 0]) await reader.ready([far], frame);
  expect(far.reads).toEqual([0, 1, 2]);
  // Block 0 was asked for again: block 1 is the one to go.
  for (const frame of [30, 0, 10]) await reader.ready([far], frame);
  expect(far.reads).toEqual([0, 1, 2, 3, 1]);
});

test('two who wait for one block at once count it once', async () => {
  const reader = new TrackReader(2 * 16);
  const far = track('far', true);
  await Promise.all([reader.ready([far], 0), reader.ready([far], 0)]);
  await reader.ready([far], 10);
  // Both blocks are within the budget: the first is still at hand.
  expect(reader.take(far, 0)[0]).toBe(0);
});

test('what others find is asked for ahead, once, and goes back when it is kept no more', async () => {
  const reader = new TrackReader(4 * 16);
  const back: number[] = [];
  const far = { ...track('far', true), back: (values: Float32Array) => back.push(values[0]!) };
  const near = track('near', false);
  for (let frame = 0; frame < 60; frame++) {
    await reader.readyAround([far, near], frame);
    for (const at of [frame, frame + 1]) {
      expect(reader.take(far, at)[0]).toBe(Math.floor(at / 10));
      expect(reader.take(near, at)[0]).toBe(Math.floor(at / 10));
    }
  }
  await Promise.resolve();
  expect(far.reads).toEqual([0, 1, 2, 3, 4, 5, 6]);
  // What is at hand is not worked out before it is wanted.
  expect(near.reads).toEqual([0, 1, 2, 3, 4, 5, 6].slice(0, near.reads.length));
  expect(back).toEqual([0, 1, 2, 3, 4, 5].slice(0, back.length));
  expect(back.length).toBeGreaterThan(1);
});

test('what is asked for ahead and cannot be had is told when it is wanted, and tried again', async () => {
  const reader = new TrackReader();
  let fails = true;
  const odd: BlockTrack = {
    name: 'odd',
    words: 1,
    back: () => undefined,
    blockAt: (frame) => frame,
    read: (block) =>
      fails && block > 1 ? Promise.reject(new Error('gone')) : Promise.resolve(new Float32Array(1)),
  };
  await reader.readyAround([odd], 0);
  await expect(reader.ready([odd], 2)).rejects.toThrow('gone');
  fails = false;
  await reader.ready([odd], 2);
  expect(reader.take(odd, 2)).toHaveLength(1);
});

test('a block of the wrong size is refused by name', () => {
  const odd: BlockTrack = {
    name: 'odd',
    words: 4,
    blockAt: () => 0,
    read: () => new Float32Array(3),
  };
  expect(() => new TrackReader().take(odd, 0)).toThrow("Block 0 of 'odd' has 3 numbers");
});

test('signals are tracks of the plan, by id; switched off they rest at 0', () => {
  const piece = smallPiece((p) => {
    p.signals = [makePart('signals', 'wave', [])];
    p.signals.push({ ...makePart('signals', 'wave', p.signals), on: false });
  });
  const { numbers, blocks } = compilePiece(piece).tracks;
  expect([...numbers.keys()]).toEqual(piece.signals.map((s) => s.id));
  // A sine of four seconds, from its lowest to its highest.
  expect([0, 1, 2, 3].map((t) => numbers.get('wave')!(t))).toEqual([
    0,
    expect.closeTo(0.5, 9),
    1,
    expect.closeTo(0.5, 9),
  ]);
  expect(numbers.get(piece.signals[1]!.id)!(2)).toBe(0);
  expect(blocks).toEqual([]);
});
