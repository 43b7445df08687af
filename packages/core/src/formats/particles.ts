import type { ParticleTable } from './particleTable';

/** Comma-separated values (RFC 4180) with a head row; numbers read back to the same f32. */
export function toCsv({ columns, values, rows }: ParticleTable): string {
  const lines = [columns.join(',')];
  for (let i = 0; i < rows; i++) lines.push(values.map((v) => shortest(v[i]!)).join(','));
  return `${lines.join('\n')}\n`;
}

/** The shortest decimal among those of 7 to 9 digits that gives the same f32. */
function shortest(value: number): string {
  for (let digits = 7; digits < 9; digits++) {
    const text = value.toPrecision(digits);
    if (Math.fround(Number(text)) === Math.fround(value)) return String(Number(text));
  }
  return String(Number(value.toPrecision(9)));
}

/** PLY names of the columns; what has a customary name goes by it. */
const PLY_NAMES: Readonly<Record<string, string>> = {
  px: 'x',
  py: 'y',
  pz: 'z',
  r: 'red',
  g: 'green',
  b: 'blue',
  a: 'alpha',
};

/** PLY (Stanford, 1.0), binary little endian: the id as int, everything else as float. */
export function toPly({ columns, values, rows }: ParticleTable): Uint8Array<ArrayBuffer> {
  const types = columns.map((c) => (c === 'id' ? 'int' : 'float'));
  const head = new TextEncoder().encode(
    [
      'ply',
      'format binary_little_endian 1.0',
      'comment metres, seconds, linear light',
      `element vertex ${String(rows)}`,
      ...columns.map((c, i) => `property ${types[i]!} ${PLY_NAMES[c] ?? c}`),
      'end_header\n',
    ].join('\n'),
  );
  const out = new Uint8Array(head.length + rows * columns.length * 4);
  out.set(head);
  const view = new DataView(out.buffer, head.length);
  for (let i = 0; i < rows; i++) {
    columns.forEach((c, k) => {
      const at = 4 * (i * columns.length + k);
      if (c === 'id') view.setInt32(at, values[k]![i]!, true);
      else view.setFloat32(at, values[k]![i]!, true);
    });
  }
  return out;
}
