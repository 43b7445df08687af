import { decode } from 'fast-png';
import zlib from 'node:zlib';
import { encodeLight, encodePng, samplesOf } from '@vast-swarm/core/formats';
import { crc32 } from '@vast-swarm/core/stock';
import { srgb } from '../../core/src/formats/stills/srgb';

const frame = {
  width: 5,
  height: 3,
  pixels: Uint8ClampedArray.from({ length: 60 }, (_, i) => (i % 4 === 3 ? 255 : 7 * i)),
};

test('a PNG says that it is sRGB before its pixels, and has those of the frame', async () => {
  const bytes = await encodePng(frame);
  // Its sums are checked too.
  const { width, height, channels, data } = decode(bytes, { checkCrc: true });
  expect([width, height, channels]).toEqual([5, 3, 3]);
  expect([...data]).toEqual([...frame.pixels].filter((_, i) => i % 4 !== 3));
  const chunks = Buffer.from(bytes).toString('latin1');
  expect(chunks.indexOf('sRGB')).toBeGreaterThan(chunks.indexOf('IHDR'));
  expect(chunks.indexOf('IDAT')).toBeGreaterThan(chunks.indexOf('sRGB'));
});

test('light as sRGB is that of its formula, from black to white and beyond', () => {
  const exactly = (v: number): number =>
    v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
  let off = 0;
  for (let v = 1e-6; v < 1; v *= 1.0001) off = Math.max(off, Math.abs(srgb(v) - exactly(v)));
  expect(off).toBeLessThan(1e-6);
  expect([-1, 0, 1, 2, Infinity, NaN].map(srgb)).toEqual([0, 0, 1, 1, 1, 0]);
});

test('the sum of a text is that of its standard, at any length', () => {
  const of = (text: string): number => crc32(new TextEncoder().encode(text));
  expect(of('123456789')).toBe(0xcbf43926);
  expect(of('')).toBe(0);
  const long = 'salt glass quay '.repeat(999);
  for (let cut = 0; cut < 20; cut++) {
    const bytes = new TextEncoder().encode(long.slice(cut));
    expect(crc32(bytes)).toBe(zlib.crc32(bytes));
  }
});

test('16 bits have each step of light, high byte first', async () => {
  const red = Float32Array.from({ length: 4096 }, (_, i) => i / 4095);
  const light = { width: 64, height: 64, planes: [red, red, red], cover: null } as const;
  const given = { ...light, planes: [...light.planes] as [typeof red, typeof red, typeof red] };
  const { data, depth, channels } = decode(await encodeLight(given, 16), { checkCrc: true });
  expect([depth, channels]).toEqual([16, 3]);
  expect([...data]).toEqual([...samplesOf(given, 16).data]);
  expect(data[3 * 4095]).toBe(65535);
});
