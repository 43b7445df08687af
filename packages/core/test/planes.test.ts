import { codingOf, type Coding } from '@vast-swarm/core/stock';
import { pictureOfPlanes, type Planes } from '../src/stock/read/clip/planes';

/** Decoded pictures as red, green and blue, against the equations in double precision. */

let state = 5;
const byte = (): number => (state = (state * 48271) % 2147483647) % 256;

const PARTS = { bt601: [0.299, 0.114], bt709: [0.2126, 0.0722], bt2020: [0.2627, 0.0593] };

/** ITU-T H.273, equations 38 to 43. */
function wanted(y: number, u: number, v: number, { matrix, full }: Coding): number[] {
  const [kr, kb] = PARTS[matrix] as [number, number];
  const luma = full ? y / 255 : (y - 16) / 219;
  const [b, r] = [u, v].map((c) => (full ? (c - 128) / 255 : (c - 128) / 224)) as [number, number];
  const red = luma + 2 * (1 - kr) * r;
  const blue = luma + 2 * (1 - kb) * b;
  const green = (luma - kr * red - kb * blue) / (1 - kr - kb);
  return [red, green, blue].map((c) => Math.min(255, Math.max(0, 255 * c)));
}

/** Planes of any bytes; half their size, side by side (`step` 1) or in turn (2). */
function planesOf(width: number, height: number, step: 1 | 2): Planes {
  const [wide, high] = [(width + 1) >> 1, (height + 1) >> 1];
  const lumaStride = width + 3;
  const chromaStride = wide * step + 2;
  const colours = Uint8Array.from({ length: 2 * chromaStride * high }, byte);
  return {
    width,
    height,
    lumaStride,
    chromaStride,
    chromaStep: step,
    luma: Uint8Array.from({ length: lumaStride * height }, byte),
    blue: colours.subarray(0),
    red: step === 2 ? colours.subarray(1) : colours.subarray(chromaStride * high),
  };
}

const CODINGS: Coding[] = (['bt601', 'bt709', 'bt2020'] as const).flatMap((matrix) =>
  [true, false].map((full) => ({ matrix, full })),
);

test.each([
  [64, 36],
  [37, 5],
  [1, 1],
  [1, 9],
  [3, 4],
  [2, 1],
])('%d by %d pixels are as the equations have them, rounded', (width, height) => {
  for (const coding of CODINGS) {
    for (const step of [1, 2] as const) {
      const planes = planesOf(width, height, step);
      const { pixels } = pictureOfPlanes(planes, coding);
      expect(pixels).toHaveLength(4 * width * height);
      let off = 0;
      for (let at = 0; at < width * height; at++) {
        const [x, y] = [at % width, Math.floor(at / width)];
        const c = (y >> 1) * planes.chromaStride + (x >> 1) * step;
        const luma = planes.luma[y * planes.lumaStride + x]!;
        const all = wanted(luma, planes.blue[c]!, planes.red[c]!, coding);
        all.forEach((v, k) => {
          off = Math.max(off, Math.abs(pixels[4 * at + k]! - v));
        });
        if (pixels[4 * at + 3] !== 255) off = Infinity;
      }
      expect(off).toBeLessThan(0.51);
    }
  }
});

test('what a file does not say is taken as its size suggests', () => {
  expect(codingOf({}, 540)).toEqual({ matrix: 'bt601', full: false });
  expect(codingOf({}, 720)).toEqual({ matrix: 'bt709', full: false });
  expect(codingOf({ matrix: 'bt709', fullRange: true }, 540)).toEqual({
    matrix: 'bt709',
    full: true,
  });
});
