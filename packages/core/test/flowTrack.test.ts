import type { MovingPicture, Picture } from '@vast-swarm/core/stock';
import { changeAt, flowSize, flowTrack } from '../src/language/flowTrack';

const [WIDTH, HEIGHT] = [64, 36];

/** A texture that goes so far to the right with each state. */
function pictureAt(state: number, far: number): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [(i % WIDTH) - far * state, Math.floor(i / WIDTH)];
    const tone =
      128 + 60 * Math.sin(x * 0.5) * Math.cos(y * 0.4) + 50 * Math.sin(x * 0.23 + y * 0.31);
    pixels.fill(tone, 4 * i, 4 * i + 3);
  }
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}

/** A moving picture whose state changes every so many frames, and begins anew after `count` states. */
function moving(every: number, count = Infinity, far = 1): MovingPicture {
  const stateAt = (frame: number): number => Math.floor(frame / every) % count;
  return {
    type: 'moving',
    name: `texture ${every} ${count} ${far}`,
    width: WIDTH,
    height: HEIGHT,
    stateAt,
    jumps: (frame) => frame > 0 && stateAt(frame) < stateAt(frame - 1),
    at: (state) => pictureAt(state, far),
  };
}

test('what a frame shows is the change that brought it, over the frames that it took', () => {
  expect(changeAt(moving(1), 5)).toEqual({ from: 4, to: 5, frames: 1 });
  for (const frame of [6, 7, 8])
    expect(changeAt(moving(3), frame)).toEqual({ from: 1, to: 2, frames: 3 });
  // At the beginning, and where it begins again, the change that comes.
  expect(changeAt(moving(3), 1)).toEqual({ from: 0, to: 1, frames: 3 });
  expect(changeAt(moving(2, 4), 8)).toEqual({ from: 0, to: 1, frames: 2 });
  expect(changeAt(moving(2, 4), 10)).toEqual({ from: 0, to: 1, frames: 2 });
});

test('a picture that stands still, or has stood long, shows no change', () => {
  expect(changeAt({ ...moving(1), stateAt: () => 0 }, 7)).toBeNull();
  expect(changeAt(moving(500), 800)).toBeNull();
});

/** The mean motion of a frame to the right, in widths a frame, away from the border. */
function across(of: MovingPicture, frame: number, steady = 1): number {
  const track = flowTrack(of, { detail: WIDTH, smooth: 0, steady });
  const block = track.read(track.blockAt(frame)) as Float32Array;
  expect(block).toHaveLength(track.words);
  let [sum, count] = [0, 0];
  for (let y = 8; y < HEIGHT - 8; y++) {
    for (let x = 12; x < WIDTH - 12; x++) {
      sum += block[y * WIDTH + x]!;
      count += 1;
    }
  }
  return (sum / count) * WIDTH;
}

test.each([1, 2, 4])(
  'motion is that of a frame, also where a picture is there for %d of them',
  (every) => {
    for (const steady of [1, 3]) {
      expect(across(moving(every), 4 * every, steady)).toBeCloseTo(1 / every, 1);
    }
    expect(across(moving(every, Infinity, -2), 4 * every)).toBeCloseTo(-2 / every, 1);
  },
);

test('where a clip begins again there is no motion back', () => {
  // Eight pixels back in one step, one forward in all others.
  expect(across(moving(1, 9), 9)).toBeCloseTo(1, 1);
  expect(across(moving(1, 9), 10, 4)).toBeCloseTo(1, 1);
});

test('equal frames have one block, and pictures from afar are waited for', async () => {
  const options = { detail: WIDTH, smooth: 0.05, steady: 2 };
  const near = flowTrack(moving(4), options);
  expect([8, 9, 10, 11, 12].map((f) => near.blockAt(f))).toEqual([8, 8, 8, 8, 12]);
  const { at, ...rest } = moving(4);
  const far = flowTrack({ ...rest, at: (state) => Promise.resolve(at(state)) }, options);
  const read = far.read(8);
  expect(read).toBeInstanceOf(Promise);
  expect(await read).toEqual(near.read(8));
});

test('cells are as many as are asked for, never more than pixels', () => {
  expect(flowSize({ ...moving(1), width: 1920, height: 1080 }, 160)).toEqual({
    width: 160,
    height: 90,
  });
  expect(flowSize({ ...moving(1), width: 3, height: 2000 }, 160)).toEqual({
    width: 1,
    height: 160,
  });
  expect(flowSize(moving(1), 480)).toEqual({ width: WIDTH, height: HEIGHT });
});
