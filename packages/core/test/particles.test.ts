import {
  aliveOf,
  csvOf,
  particleTables,
  plyOf,
  type ParticlesBySlot,
} from '@vast-swarm/core/formats';
import { particleTable } from '../src/formats/particleTable';
import { toCsv, toPly } from '../src/formats/particles';
import { LONGEST, writeNumber } from '../src/formats/decimal';

function table() {
  const values = (f: (i: number) => number): Float32Array =>
    Float32Array.from({ length: 4 }, (_, i) => f(i));
  const column = values((i) => i + 0.1);
  const rest = { px: column, py: column, pz: column, vx: column, vy: column, vz: column };
  const look = { size: column, r: column, g: column, b: column, a: column };
  // Slot 1 has died, slot 2 is not yet born.
  const age = Float32Array.from([0.5, 2, -0.1, 0]);
  return particleTable({ age, life: values(() => 1), ...rest, ...look }, 10);
}

test('a table holds the living, in order of id', () => {
  // Ids 6 to 9 are in slots 2, 3, 0, 1.
  expect([...table().values[0]!]).toEqual([7, 8]);
});

test('who has lived to the end of its life is not among them, though its slot is its own still', () => {
  const one = (v: number): Float32Array => Float32Array.of(v, v, v);
  const names = ['px', 'py', 'pz', 'vx', 'vy', 'vz', 'size', 'r', 'g', 'b', 'a'] as const;
  const rest = Object.fromEntries(names.map((n) => [n, one(1)])) as Omit<
    ParticlesBySlot,
    'age' | 'life'
  >;
  const by = { ...rest, age: Float32Array.of(0.999, 1, 1.001), life: one(1) };
  expect([...particleTable(by, 3).values[0]!]).toEqual([0]);
  expect(aliveOf(by, 3)).toBe(1);
});

test('CSV has its head and reads back to the same single-precision numbers', () => {
  const [head, first] = toCsv(table()).split('\n');
  expect(head).toBe('id,age,life,px,py,pz,vx,vy,vz,size,r,g,b,a');
  const numbers = first!.split(',').map(Number);
  expect(numbers[0]).toBe(7);
  expect(Math.fround(numbers[3]!)).toBe(Math.fround(3.1));
});

test('PLY is binary with one vertex a particle, as its head says', () => {
  const bytes = toPly(table());
  const end = Buffer.from(bytes).indexOf('end_header\n') + 'end_header\n'.length;
  const head = Buffer.from(bytes.subarray(0, end)).toString();
  expect(head).toMatch(/^ply\nformat binary_little_endian 1\.0\n/);
  expect(head).toContain('element vertex 2\nproperty int id\nproperty float age');
  expect(bytes.length - end).toBe(2 * 14 * 4 + 2 * 5);
  const view = new DataView(bytes.buffer, bytes.byteOffset + end);
  expect(view.getInt32(0, true)).toBe(7);
  expect(view.getFloat32(12, true)).toBe(Math.fround(3.1));
});

/** Numbers of all sizes that single precision has, the same each time. */
function singles(count: number): Float32Array {
  const bits = new Uint32Array(count);
  let state = 7;
  for (let i = 0; i < count; i++) bits[i] = state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return new Float32Array(bits.buffer).map((v) => (Number.isFinite(v) ? v : 1));
}

const written = (value: number): string => {
  const bytes = new Uint8Array(LONGEST);
  return new TextDecoder().decode(bytes.subarray(0, writeNumber(value, bytes, 0)));
};

test('numbers of all sizes read back as they were, with no more than nine digits', () => {
  const close = Float32Array.from([0.1, 1, 9.9999999, 10, 99999.99, 123456.7, 1e-5, 9.99999e-6]);
  const more = Float32Array.from([0, -0.5, 1e8, 16777217, 999999999, 1e9, 3.4e38, 1e-45, 2 ** -20]);
  const wide = singles(30_000);
  const near = wide.map((v) => (v % 1000) / 7);
  const wrong = [...close, ...more, ...wide, ...near].filter((value) => {
    const text = written(value);
    const digits = text.replace(/e.*|\D/g, '').replace(/^0+|0+$/g, '');
    return Math.fround(Number(text)) !== value || digits.length > 9;
  });
  expect(wrong).toEqual([]);
  expect([0.1, 2.5, 1e8, -3, 0.001].map((v) => written(Math.fround(v)))).toEqual([
    '0.1',
    '2.5',
    '100000000',
    '-3',
    '0.001',
  ]);
});

test('tables that are written piece by piece are as one that is whole', () => {
  const count = 70_000;
  const column = singles(count).map((v) => v % 100);
  const age = column.map((_, i) => (i % 3 === 0 ? -1 : 0.5));
  const by = Object.fromEntries(
    ['life', 'px', 'py', 'pz', 'vx', 'vy', 'vz', 'size', 'r', 'g', 'b', 'a'].map((c) => [
      c,
      column,
    ]),
  ) as unknown as ParticlesBySlot;
  const slots = { ...by, age, life: column.map(() => 1) };
  const pieces = [...particleTables(slots, count + 5)];
  const whole = particleTable(slots, count + 5);
  expect(pieces.length).toBeGreaterThan(1);
  expect([pieces.reduce((sum, p) => sum + p.rows, 0), aliveOf(slots, count + 5)]).toEqual([
    whole.rows,
    whole.rows,
  ]);
  const joined = (parts: Iterable<Uint8Array>): Buffer => Buffer.concat([...parts]);
  expect(joined(csvOf(pieces)).equals(Buffer.from(toCsv(whole)))).toBe(true);
  expect(joined(plyOf(pieces, whole.rows)).equals(Buffer.from(toPly(whole)))).toBe(true);
});
