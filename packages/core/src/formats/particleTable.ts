/** The particles alive at one frame, one array a column, in order of id. */
export interface ParticleTable {
  columns: readonly string[];
  values: readonly Float64Array[];
  rows: number;
}

export const COLUMNS = [
  ...['id', 'age', 'life', 'px', 'py', 'pz', 'vx', 'vy', 'vz'],
  ...['size', 'r', 'g', 'b', 'a'],
] as const;

/**
 * Gathers what an engine holds by slot into a table of those alive.
 *
 * @param by arrays by slot: age and life (s), px … pz (m), vx … vz (m/s), size (m), r, g, b (linear
 *   light), a (opacity)
 * @param born ids run below it; an id's slot is id modulo the capacity
 */
export function particleTable(
  by: Readonly<Record<Exclude<(typeof COLUMNS)[number], 'id'>, Float32Array>>,
  born: number,
): ParticleTable {
  const capacity = by.age.length;
  const ids: number[] = [];
  for (let id = Math.max(0, born - capacity); id < born; id++) {
    const slot = id % capacity;
    if (by.age[slot]! >= 0 && by.age[slot]! < by.life[slot]!) ids.push(id);
  }
  const values = COLUMNS.map((name) =>
    Float64Array.from(ids, (id) => (name === 'id' ? id : by[name][id % capacity]!)),
  );
  return { columns: COLUMNS, values, rows: ids.length };
}
