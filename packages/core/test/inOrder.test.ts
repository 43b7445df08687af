import { inOrder, type DecodeFrom } from '../src/stock/read/clip/inOrder';
import type { Planes } from '@vast-swarm/core/stock';

/** A picture that knows its number. */
function planes(index: number): Planes {
  const plane = new Uint8Array(4).fill(index);
  return {
    width: 2,
    height: 2,
    lumaStride: 2,
    chromaStride: 1,
    chromaStep: 1,
    luma: plane,
    blue: plane,
    red: plane,
  };
}

/** A video of so many pictures, some of them damaged: decoding stops there. Counts how often it is begun. */
function video(count: number, damaged: readonly number[] = []) {
  const begun: number[] = [];
  const from: DecodeFrom = async function* (index) {
    begun.push(index);
    for (let i = index; i < count; i++) {
      await Promise.resolve();
      if (damaged.includes(i)) throw new Error(`picture ${String(i)} is damaged`);
      yield planes(i);
    }
  };
  return { begun, from };
}

async function shown(read: (index: number) => Promise<Planes>, index: number): Promise<number> {
  return (await read(index)).luma[0]!;
}

test('every picture is the one that was asked for, in any order and at once', async () => {
  const { from } = video(200);
  const read = inOrder(from, 200);
  // Steps of all sizes, forwards and backwards.
  const asked = Array.from({ length: 100 }, (_, i) => (i * 73 + ((i * i) % 7) * 11) % 200);
  for (const index of asked) expect(await shown(read, index)).toBe(index);
  const together = await Promise.all(asked.map((index) => shown(read, index)));
  expect(together).toEqual(asked);
});

test('what is played from two places at once is decoded from two places, and begun no more than twice', async () => {
  const { from, begun } = video(200);
  const read = inOrder(from, 200);
  for (let i = 0; i < 60; i++) {
    expect(await shown(read, 120 + i)).toBe(120 + i);
    expect(await shown(read, 10 + i)).toBe(10 + i);
  }
  expect(begun).toEqual([120, 10]);
});

test('a small step on goes on, a large one and one back begin anew', async () => {
  const { from, begun } = video(200);
  const read = inOrder(from, 200);
  for (const index of [0, 30, 29, 190]) expect(await shown(read, index)).toBe(index);
  expect(begun).toEqual([0, 29, 190]);
});

test('for a damaged picture the one before it stays, whatever was shown before', async () => {
  const { from } = video(12, [5, 6]);
  for (const first of [[], [0, 1, 2, 3, 4], [11], [6, 6]]) {
    const read = inOrder(from, 12);
    for (const index of first) await read(index);
    for (const [index, is] of [
      [4, 4],
      [5, 4],
      [6, 4],
      [7, 7],
      [6, 4],
    ] as const) {
      expect(await shown(read, index)).toBe(is);
    }
  }
});

test('a video that says more pictures than it has shows its last one', async () => {
  const read = inOrder(video(3).from, 6);
  expect(await Promise.all([0, 2, 3, 5].map((i) => shown(read, i)))).toEqual([0, 2, 2, 2]);
});

test('where nothing can be decoded it says why', async () => {
  await expect(inOrder(video(4, [0]).from, 4)(0)).rejects.toThrow('picture 0 is damaged');
  await expect(inOrder(video(0).from, 4)(0)).rejects.toThrow('picture 1 of 4 cannot be decoded');
});
