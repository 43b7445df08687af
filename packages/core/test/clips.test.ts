import { encode } from 'fast-png';
import { zipSync } from 'fflate';
import { encode as encodeJpeg } from 'jpeg-js';
import { GifWriter } from 'omggif';
import { movingClip, numberAt, readStock, type Clip, type Picture } from '@vast-swarm/core/stock';
import { secondAt } from '../src/stock/played';
import type { Playing } from '../src/stock/clip/movingClip';

const [WIDTH, HEIGHT] = [6, 4];

function flat(red: number, width = WIDTH, height = HEIGHT): Picture {
  const pixels = new Uint8Array(4 * width * height).fill(255);
  for (let i = 0; i < pixels.length; i += 4) pixels.set([red, 40, 90], i);
  return { type: 'picture', width, height, pixels };
}

const png = (red: number, width = WIDTH, height = HEIGHT): Uint8Array =>
  encode({ width, height, data: flat(red, width, height).pixels, channels: 4, depth: 8 });

const playing = (rest: Partial<Playing> = {}): Playing => ({
  start: 0,
  speed: 1,
  from: 0,
  to: 0,
  ends: 'loop',
  mixes: false,
  ...rest,
});

/** Four pictures, a tenth of a second each. */
const four: Clip = {
  type: 'clip',
  width: WIDTH,
  height: HEIGHT,
  times: Float64Array.of(0, 0.1, 0.2, 0.3, 0.4),
  picture: (index) => flat(50 * (index + 1)),
};

test.each<[string, Partial<Playing>, number[]]>([
  ['again and again', {}, [0, 1, 2, 3, 0, 1, 2, 3, 0]],
  ['there and back', { ends: 'bounce' }, [0, 1, 2, 3, 3, 2, 1, 0, 0]],
  ['once', { ends: 'hold' }, [0, 1, 2, 3, 3, 3, 3, 3, 3]],
  ['later', { ends: 'hold', start: 0.3 }, [0, 0, 0, 0, 1, 2, 3, 3, 3]],
  ['backwards', { speed: -1 }, [3, 2, 1, 0, 3, 2, 1, 0, 3]],
  ['twice as fast', { speed: 2 }, [0, 2, 0, 2, 0, 2, 0, 2, 0]],
  ['half as fast', { speed: 0.5 }, [0, 0, 1, 1, 2, 2, 3, 3, 0]],
  ['a part of it', { from: 0.1, to: 0.3 }, [1, 2, 1, 2, 1, 2, 1, 2, 1]],
])('a clip that plays %s', (_, rest, wanted) => {
  const { stateAt } = movingClip(four, 'four', 10, playing(rest));
  expect(wanted.map((__, frame) => stateAt(frame))).toEqual(wanted);
});

test('a frame shows the picture of its number, however its times were rounded', () => {
  for (const rate of [24, 25, 30, 50, 60]) {
    const clip = {
      times: Float64Array.from({ length: 201 }, (_, i) => Math.round((i * 1000) / rate) / 1000),
    };
    for (let frame = 0; frame < 200; frame++) {
      expect(numberAt(clip, secondAt(clip, playing(), (frame + 0.3) / rate))).toBe(frame);
    }
  }
});

test('only where it begins again a clip does not go on', () => {
  const { jumps } = movingClip(four, 'four', 10, playing());
  expect([1, 2, 3, 4, 5, 8].map((frame) => jumps!(frame))).toEqual([
    false,
    false,
    false,
    true,
    false,
    true,
  ]);
  expect(movingClip(four, 'four', 10, playing({ ends: 'bounce' })).jumps!(4)).toBe(false);
});

test('between two pictures there is a mix of their light', async () => {
  const { stateAt, at } = movingClip(four, 'four', 40, playing({ mixes: true, ends: 'hold' }));
  // Frame 2 looks at 2.3 of the four frames that a picture is there.
  const { pixels } = await at(stateAt(2));
  const light = (c: number): number => ((c / 255 + 0.055) / 1.055) ** 2.4;
  const wanted = light(50) + (light(100) - light(50)) * (2.3 / 4);
  expect(Math.abs(light(pixels[0]!) - wanted)).toBeLessThan(0.004);
  expect([pixels[1], pixels[2], pixels[3]]).toEqual([40, 90, 255]);
});

function gif(disposals: number[]): Uint8Array {
  const bytes: number[] = [];
  const palette = [0x000000, 0xff0000, 0x00ff00, 0x0000ff];
  const writer = new GifWriter(bytes, WIDTH, HEIGHT, { palette, loop: 0 });
  disposals.forEach((disposal, i) => {
    // A stripe two pixels wide that moves on, over what is there.
    const indices = new Array<number>(2 * HEIGHT).fill(1 + (i % 3));
    writer.addFrame(2 * i, 0, 2, HEIGHT, indices, { delay: 5 + i, disposal });
  });
  writer.end();
  return Uint8Array.from(bytes);
}

test('an animated GIF, its pictures laid over each other as they say', async () => {
  const clip = (await readStock('stripes.gif', gif([1, 2, 1]))) as Clip;
  expect([...clip.times].map((t) => Math.round(t * 100))).toEqual([0, 5, 11, 18]);
  const seen = async (index: number): Promise<string[]> => {
    const { pixels } = await clip.picture(index);
    return [0, 2, 4].map((x) => [...pixels.slice(4 * x, 4 * x + 4)].join());
  };
  const [red, green, blue, none] = ['255,0,0,255', '0,255,0,255', '0,0,255,255', '0,0,0,0'];
  // In any order: the second is taken away again before the third.
  expect(await seen(2)).toEqual([red, none, blue]);
  expect(await seen(0)).toEqual([red, none, none]);
  expect(await seen(1)).toEqual([red, green, none]);
});

test('numbered frames in a zip, by their numbers; where some are left out the one before stays', async () => {
  const files = {
    'shot/f_0012.png': png(12),
    'shot/f_0010.png': png(10),
    'shot/f_0013.jpg': encodeJpeg({ ...flat(200), data: flat(200).pixels } as never, 95)
      .data as Uint8Array,
    'shot/notes.txt': new Uint8Array([65]),
  };
  const clip = (await readStock('shot.zip', zipSync(files))) as Clip;
  expect([...clip.times].map((t) => Math.round(t * 30))).toEqual([0, 2, 3, 4]);
  expect((await clip.picture(0)).pixels[0]).toBe(10);
  expect((await clip.picture(1)).pixels[0]).toBe(12);
  expect(Math.abs((await clip.picture(2)).pixels[0]! - 200)).toBeLessThan(8);
});

test.each<[string, Record<string, Uint8Array>, RegExp]>([
  [
    'other sizes',
    { 'a1.png': png(1), 'a2.png': png(2, 5, 5) },
    /'a2.png' has 5 × 5 pixels, the first has 6 × 4/,
  ],
  ['no numbers', { 'a.png': png(1) }, /'a.png' has no number/],
  ['a number twice', { 'a1.png': png(1), 'b1.png': png(2) }, /'b1.png' has the number of another/],
  ['nothing', { 'read.me': new Uint8Array([1]) }, /no PNG or JPEG/],
  ['a broken frame', { 'a1.png': png(1), 'a2.png': new Uint8Array(40) }, /'a2.png'/],
])('a zip with %s says which frame is wrong', async (_, files, message) => {
  await expect(readStock('frames.zip', zipSync(files))).rejects.toThrow(message);
});

test('what is no clip at all is refused by name', async () => {
  await expect(readStock('a.gif', Uint8Array.from([71, 73, 70, 1]))).rejects.toThrow(/a\.gif/);
  await expect(readStock('a.zip', Uint8Array.from([80, 75, 1, 2, 3]))).rejects.toThrow(/a\.zip/);
  const large = gif([1]);
  // A size in its head that would not fit into memory.
  large.set([0xff, 0xff, 0xff, 0xff], 6);
  await expect(readStock('large.gif', large)).rejects.toThrow(/65535 × 65535/);
});

test('a PNG of one picture is a picture', async () => {
  expect((await readStock('a.png', png(7))).type).toBe('picture');
});
