import 'fake-indexeddb/auto';
import { library } from '../src/data/db';
import { KeptFrames } from '../src/render/keptFrames';

/** Frames of a render that was ended: what is whole is there, and nothing else is. */

const bytesOf = (frame: number): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length: 100 + frame }, (_, i) => (i * 7 + frame) % 256);

async function kept(frames: number): Promise<KeptFrames> {
  const one = await KeptFrames.of('a');
  for (let frame = 0; frame < frames; frame++) await one.put(frame, bytesOf(frame));
  return one;
}

beforeEach(() => library.renderFrames.clear());

test('what was put is there when the render goes on, byte for byte', async () => {
  await kept(30);
  const again = await KeptFrames.of('a');
  for (let frame = 0; frame < 30; frame++) {
    expect(again.has(frame)).toBe(true);
    expect(await again.bytes(frame)).toEqual(bytesOf(frame));
  }
  expect(again.has(30)).toBe(false);
  expect((await KeptFrames.of('b')).has(0)).toBe(false);
});

test('a frame that is half there or not what was written is none', async () => {
  await kept(30);
  const stored = (await library.renderFrames.get(['a', 7]))!;
  await library.renderFrames.put({ ...stored, bytes: stored.bytes!.slice(0, 50) });
  const last = (await library.renderFrames.get(['a', 29]))!;
  const other = bytesOf(29);
  other[40]! ^= 1;
  await library.renderFrames.put({ ...last, bytes: new Blob([other]) });
  const again = await KeptFrames.of('a');
  const there = Array.from({ length: 30 }, (_, f) => f).filter((f) => !again.has(f));
  expect(there).toEqual([7, 29]);
  await expect(again.bytes(31)).rejects.toThrow(/Frame 31 is gone/);
});

test('frames in a folder are there as long as their files are as long as they were', async () => {
  const one = await KeptFrames.of('a');
  for (let frame = 0; frame < 4; frame++) await one.put(frame, bytesOf(frame), true);
  const sizes = [100, 101, null, 55];
  const again = await KeptFrames.of('a', (frame) => Promise.resolve(sizes[frame]!));
  expect([0, 1, 2, 3].map((frame) => again.has(frame))).toEqual([true, true, false, false]);
});

test('where the storage takes nothing, frames are kept as long as the render runs', async () => {
  const full = jest.spyOn(library.renderFrames, 'put').mockRejectedValue(new Error('full'));
  const one = await kept(3);
  expect(await one.bytes(2)).toEqual(bytesOf(2));
  full.mockRestore();
  expect((await KeptFrames.of('a')).has(2)).toBe(false);
});
