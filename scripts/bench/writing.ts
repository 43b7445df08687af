import {
  aliveOf,
  csvOf,
  particleTables,
  plyOf,
  type ParticlesBySlot,
} from '@vast-swarm/core/formats';
import { best, report } from './report';

/** Writing a million particles, against numbers that the language turns to text, and bytes one by one. */

/** Megabytes that may be taken beside the particles. */
const MEMORY = 128;
const COUNT = 1_000_000;

const column = new Float32Array(COUNT);
for (let i = 0; i < COUNT; i++) column[i] = Math.sin(i) * 10;
const names = ['px', 'py', 'pz', 'vx', 'vy', 'vz', 'size', 'r', 'g', 'b', 'a'] as const;
const by = {
  ...Object.fromEntries(names.map((n) => [n, column])),
  age: column.map((v) => v + 20),
  life: column.map((v) => v + 40),
} as unknown as ParticlesBySlot;

/** As little of it is held at a time as there can be. */
function written(parts: Iterable<Uint8Array>): void {
  let bytes = 0;
  for (const part of parts) bytes += part.length;
  if (bytes < COUNT) throw new Error('particles are missing');
}

/** The shortest text of 7 to 9 digits that reads back the same. */
function plainText(value: number): string {
  for (let digits = 7; digits < 9; digits++) {
    const text = value.toPrecision(digits);
    if (Math.fround(Number(text)) === Math.fround(value)) return String(Number(text));
  }
  return String(Number(value.toPrecision(9)));
}

/** A tenth of the rows: it takes long. */
function plainCsv(): void {
  const lines: string[] = [];
  for (let i = 0; i < COUNT / 10; i++) {
    const values = Array.from({ length: 13 }, () => plainText(column[i]!));
    lines.push([i, ...values].join(','));
  }
  if (lines.join('\n').length < COUNT) throw new Error('particles are missing');
}

function plainPly(): void {
  const ids = Array.from(column, (_, i) => i);
  const values = Array.from({ length: 14 }, () =>
    Float64Array.from(ids, (id) => column[id % COUNT]!),
  );
  const view = new DataView(new ArrayBuffer(COUNT * 14 * 4));
  for (let i = 0; i < COUNT; i++) {
    values.forEach((v, k) => {
      view.setFloat32(4 * (i * 14 + k), v[i]!, true);
    });
  }
}

const csv = best(3, () => written(csvOf(particleTables(by, COUNT))));
const ply = best(3, () => written(plyOf(particleTables(by, COUNT), aliveOf(by, COUNT))));
report('a million particles as CSV, by text instead', csv, 'ms', 10 * best(2, plainCsv));
report('a million particles as PLY, number by number instead', ply, 'ms', best(2, plainPly));

let most = 0;
const before = process.memoryUsage().rss;
for (const part of csvOf(particleTables(by, COUNT))) {
  if (part.length > 0) most = Math.max(most, process.memoryUsage().rss - before);
}
report('memory while particles are written', most / 2 ** 20, 'MB', MEMORY);
