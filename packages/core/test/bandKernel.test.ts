import { BandBank, BLOCK } from '../src/stock/sound/bandKernel';
import { bandFilter, type Biquad } from '../src/stock/sound/biquad';

/** Filters as they are written down, one number after the other; so many samples late as the kernel is. */
function plain(filters: readonly Biquad[], samples: readonly number[], late: number): number[] {
  const states = filters.map(() => [0, 0] as [number, number]);
  const out = samples.map((sample) => {
    let x = sample;
    filters.forEach(({ b0, b1, b2, a1, a2 }, f) => {
      const s = states[f]!;
      const y = b0 * x + s[0];
      s[0] = b1 * x - a1 * y + s[1];
      s[1] = b2 * x - a2 * y;
      x = y;
    });
    return x;
  });
  return [...Array.from({ length: late }, () => 0), ...out].slice(0, samples.length);
}

let state = 5;
const noise = Array.from(
  { length: 3 * BLOCK },
  () => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5,
);

test.each([
  [120, 480, 900, 20_000],
  [20, 20_000, 20, 300],
  [5000, 11_000, 60, 61],
])('bands from %d to %d, from %d to %d Hz and a third', (low, high, other, top) => {
  const bands = [
    bandFilter(low, high, 44_100),
    bandFilter(other, top, 44_100),
    bandFilter(20, 1000, 44_100),
  ];
  const bank = new BandBank(bands);
  const expected = bands.map((filters) => plain(filters, noise, 3));
  let at = 0;
  let length = 1;
  for (let block = 0; block < 3; block++) {
    bank.block.set(noise.slice(block * BLOCK, (block + 1) * BLOCK));
    for (let i = 0; i < BLOCK; i += length) {
      // In stretches of any length.
      length = 1 + ((length * 7) % 331);
      const end = Math.min(BLOCK, i + length);
      bank.run(i, end);
      const count = end - i;
      expected.forEach((out, band) => {
        const part = out.slice(at, at + count);
        const size = Math.max(1e-3, ...out.map(Math.abs));
        const sum = part.reduce((all, v) => all + v * v, 0);
        expect(Math.abs(bank.sum(band) - sum) / (count * size * size)).toBeLessThan(1e-9);
        expect(Math.abs(bank.top(band) - Math.max(...part.map(Math.abs))) / size).toBeLessThan(
          1e-9,
        );
      });
      bank.rest();
      at += count;
    }
  }
  expect(at).toBe(noise.length);
});

test('a run over nothing changes nothing', () => {
  const bank = new BandBank([bandFilter(100, 200, 8000), []]);
  bank.block.fill(0.5);
  bank.run(7, 7);
  expect([bank.sum(0), bank.sum(1), bank.top(1)]).toEqual([0, 0, 0]);
});

test('more bands than one page of memory holds', () => {
  const bank = new BandBank(Array.from({ length: 400 }, () => []));
  bank.block.fill(0.5);
  bank.run(0, 8);
  // Three samples late.
  expect([bank.sum(0), bank.sum(399), bank.top(399)]).toEqual([1.25, 1.25, 0.5]);
});
