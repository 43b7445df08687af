import type { Particles } from '../play/particles';
import { COLUMNS } from '../stock/particleColumns';

/** Particles alive at one frame, or some of them, one array a column, in order of id. */
export interface ParticleTable {
  columns: readonly string[];
  values: readonly Float64Array[];
  rows: number;
}

/**
 * An engine's particles by slot: age and life (s), px … pz (m), vx … vz (m/s), size (m), r, g, b (linear light), a
 * (opacity).
 */
export type ParticlesBySlot = Readonly<
  Record<Exclude<(typeof COLUMNS)[number], 'id'>, Float32Array>
>;

/** Particles of an engine as columns, by their names. */
export function bySlot({
  red: r,
  green: g,
  blue: b,
  opacity: a,
  ...rest
}: Particles): ParticlesBySlot {
  return { ...rest, r, g, b, a };
}

/** Rows of a table at a time, so that no more than that is held twice. */
const AT_A_TIME = 2 ** 15;

function isAlive({ age, life }: ParticlesBySlot, slot: number): boolean {
  return age[slot]! >= 0 && age[slot]! < life[slot]!;
}

/**
 * Ids of those alive, in order.
 *
 * @param born ids run below it; an id's slot is id modulo the capacity
 */
function* living(by: ParticlesBySlot, born: number): Generator<number> {
  const capacity = by.age.length;
  for (let id = Math.max(0, born - capacity); id < born; id++) {
    if (isAlive(by, id % capacity)) yield id;
  }
}

/** How many are alive; `born` as above. */
export function aliveOf(by: ParticlesBySlot, born: number): number {
  let count = 0;
  for (let slot = 0; slot < Math.min(born, by.age.length); slot++) {
    if (isAlive(by, slot)) count += 1;
  }
  return count;
}

function tableOf(by: ParticlesBySlot, ids: readonly number[]): ParticleTable {
  const capacity = by.age.length;
  const values = COLUMNS.map((name) => {
    if (name === 'id') return Float64Array.from(ids);
    const [from, column] = [by[name], new Float64Array(ids.length)];
    for (let i = 0; i < ids.length; i++) column[i] = from[ids[i]! % capacity]!;
    return column;
  });
  return { columns: COLUMNS, values, rows: ids.length };
}

/** Gathers what an engine holds by slot into tables of those alive, some at a time; `born` as above. */
export function* particleTables(by: ParticlesBySlot, born: number): Generator<ParticleTable> {
  let ids: number[] = [];
  for (const id of living(by, born)) {
    ids.push(id);
    if (ids.length < AT_A_TIME) continue;
    yield tableOf(by, ids);
    ids = [];
  }
  if (ids.length > 0) yield tableOf(by, ids);
}

/** The same as one table. */
export function particleTable(by: ParticlesBySlot, born: number): ParticleTable {
  return tableOf(by, [...living(by, born)]);
}
