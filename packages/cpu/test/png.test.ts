import { decode } from 'fast-png';
import { encodePng } from '../src';

const frame = {
  ...{ width: 5, height: 3 },
  pixels: Uint8ClampedArray.from({ length: 60 }, (_, i) => (i % 4 === 3 ? 255 : 7 * i)),
};

test('a PNG says that it is sRGB before its pixels, and has those of the frame', () => {
  const bytes = encodePng(frame);
  // Its sums are checked too.
  const { width, height, channels, data } = decode(bytes, { checkCrc: true });
  expect([width, height, channels]).toEqual([5, 3, 3]);
  expect([...data]).toEqual([...frame.pixels].filter((_, i) => i % 4 !== 3));
  const chunks = Buffer.from(bytes).toString('latin1');
  expect(chunks.indexOf('sRGB')).toBeGreaterThan(chunks.indexOf('IHDR'));
  expect(chunks.indexOf('IDAT')).toBeGreaterThan(chunks.indexOf('sRGB'));
});
