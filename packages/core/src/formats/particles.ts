import { LONGEST, writeNumber } from './decimal';
import { COLUMNS } from '../stock/particleColumns';
import type { Particles } from '../play/particles';
import { aliveOf, bySlot, particleTables, type ParticleTable } from './particleTable';

type Bytes = Uint8Array<ArrayBuffer>;

const encode = (text: string): Bytes => new TextEncoder().encode(text);
const [COMMA, LINE] = [',', '\n'].map((c) => c.charCodeAt(0)) as [number, number];

/** Comma-separated values (RFC 4180) with a head row, piece by piece; numbers read back to the same f32. */
export function* csvOf(tables: Iterable<ParticleTable>): Generator<Bytes> {
  yield encode(`${COLUMNS.join(',')}\n`);
  for (const { values, rows } of tables) {
    const out = new Uint8Array(rows * values.length * (LONGEST + 1));
    let at = 0;
    for (let i = 0; i < rows; i++) {
      for (const column of values) {
        at = writeNumber(column[i]!, out, at);
        out[at++] = COMMA;
      }
      out[at - 1] = LINE;
    }
    yield out.subarray(0, at);
  }
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

/**
 * PLY (Stanford, 1.0), binary little endian, piece by piece: the id as int, everything else as float. Each particle is
 * a face of one corner too: programs that read meshes take what has no faces for broken.
 *
 * @param count rows of all tables
 */
export function* plyOf(tables: Iterable<ParticleTable>, count: number): Generator<Bytes> {
  const types = COLUMNS.map((c) => (c === 'id' ? 'int' : 'float'));
  const head = [
    'ply',
    'format binary_little_endian 1.0',
    'comment metres, seconds, linear light',
    `element vertex ${String(count)}`,
    ...COLUMNS.map((c, i) => `property ${types[i]!} ${PLY_NAMES[c] ?? c}`),
    `element face ${String(count)}`,
    'property list uchar int vertex_indices',
    'end_header\n',
  ];
  yield encode(head.join('\n'));
  for (const { values, rows } of tables) {
    const view = new DataView(new ArrayBuffer(4 * rows * values.length));
    for (let k = 0; k < values.length; k++) {
      const [column, whole] = [values[k]!, types[k] === 'int'];
      for (let i = 0; i < rows; i++) {
        const at = 4 * (i * values.length + k);
        if (whole) view.setInt32(at, column[i]!, true);
        else view.setFloat32(at, column[i]!, true);
      }
    }
    yield new Uint8Array(view.buffer);
  }
  yield* facesOf(count);
}

/** Faces of a piece. */
const AT_A_TIME = 2 ** 16;

function* facesOf(count: number): Generator<Bytes> {
  for (let first = 0; first < count; first += AT_A_TIME) {
    const rows = Math.min(AT_A_TIME, count - first);
    const view = new DataView(new ArrayBuffer(5 * rows));
    for (let i = 0; i < rows; i++) {
      view.setUint8(5 * i, 1);
      view.setInt32(5 * i + 1, first + i, true);
    }
    yield new Uint8Array(view.buffer);
  }
}

/**
 * A table's file of what an engine tells of a swarm's particles, piece by piece.
 *
 * @param born ids run below it
 */
export function particleFile(
  form: 'ply' | 'csv',
  particles: Particles,
  born: number,
): Generator<Bytes> {
  const by = bySlot(particles);
  const tables = particleTables(by, born);
  return form === 'ply' ? plyOf(tables, aliveOf(by, born)) : csvOf(tables);
}

function whole(parts: Iterable<Bytes>): Bytes {
  const all = [...parts];
  const out = new Uint8Array(all.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of all) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

export function toCsv(table: ParticleTable): string {
  return new TextDecoder().decode(whole(csvOf([table])));
}

export function toPly(table: ParticleTable): Bytes {
  return whole(plyOf([table], table.rows));
}
