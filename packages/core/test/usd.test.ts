import { quaternionOf } from '../src/formats/usd/columns';
import { primNames } from '../src/formats/usd/layout';
import { sampleOf } from '../src/formats/usd/samples';
import { rotationRows } from '../src/plan/look/rotation';

const turns = [-180, -90, -35, 0, 12, 90, 135, 180];

test('a quaternion turns as the axes do that it was made of, at any angles', () => {
  for (const a of turns) {
    for (const b of turns) {
      for (const c of turns) {
        const rows = rotationRows([a, b, c]);
        const axes = [0, 1, 2].map((k) => rows.map((row) => row[k]!));
        const [w, x, y, z] = quaternionOf(axes);
        expect(Math.hypot(w, x, y, z)).toBeCloseTo(1, 12);
        // By the product of quaternions: q (0, v) q*.
        const back = [
          [1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y)],
          [2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x)],
          [2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)],
        ];
        rows.forEach((row, i) => {
          row.forEach((v, k) => {
            expect(back[i]![k]).toBeCloseTo(v, 10);
          });
        });
      }
    }
  }
});

test('names are such that paths can have them, each once', () => {
  expect(primNames(['Net', 'Net', 'Gull trails', '3 lamps', '', 'Nét?', '…'])).toEqual([
    'Net',
    'Net_2',
    'Gull_trails',
    '_3_lamps',
    '_',
    'N_t_',
    '__2',
  ]);
});

test('a sample has all its elements, ids to the last digit, however many there are', () => {
  const count = 40_000;
  const id = Float64Array.from({ length: count }, (_, i) => 16_777_217 + i);
  const x = Float64Array.from(id, (_, i) => Math.fround(i / 7));
  const text = (columns: string[]): string =>
    [...sampleOf({ type: '', name: '', columns }, 12, { id, x })]
      .map((b) => new TextDecoder().decode(b))
      .join('');
  expect(text(['id'])).toBe(`        12: [${Array.from(id).join(', ')}],\n`);
  const pairs = text(['x', 'id']).matchAll(/\(([^,]+), (\d+)\)/g);
  let n = 0;
  for (const [, a, b] of pairs) {
    if (Math.fround(Number(a)) !== x[n] || Number(b) !== id[n]) throw new Error(String(n));
    n += 1;
  }
  expect(n).toBe(count);
});
