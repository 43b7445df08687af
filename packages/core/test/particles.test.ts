import { particleTable, toCsv, toPly } from '../src';

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
  expect(bytes.length - end).toBe(2 * 14 * 4);
  const view = new DataView(bytes.buffer, bytes.byteOffset + end);
  expect(view.getInt32(0, true)).toBe(7);
  expect(view.getFloat32(12, true)).toBe(Math.fround(3.1));
});
