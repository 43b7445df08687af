import Papa from 'papaparse';
import type { Joint, Motion, Performer } from '../../types';
import { StockError } from '../error';
import { motionOf } from './motionOf';

const COLUMNS = ['time', 'performer', 'joint', 'x', 'y', 'z'] as const;
const MOST_ROWS = 5_000_000;

/** Whether a table is one of joints: its first row names them. */
export function isJointTable(text: string): boolean {
  const [first = ''] = text.trimStart().split(/\r\n|\r|\n/, 1);
  const names = first.split(',').map((f) => f.trim().toLowerCase());
  return COLUMNS.every((c) => names.includes(c));
}

interface Row {
  time: number;
  performer: string;
  joint: string;
  place: [number, number, number];
}

/**
 * A table of joints: `time,performer,joint,x,y,z`, seconds and metres, y up, in any order. A joint that has no row at
 * a time is straight between those that it has. Which joints are bones is not in it: each hangs on the nearest that
 * hangs together with the first, by their mean distance.
 *
 * @throws StockError that says what is wrong, and in which line
 */
export function motionOfTable(name: string, text: string): Motion {
  const rows = rowsOf(name, text);
  const times = Float64Array.from(new Set(rows.map((r) => r.time))).sort();
  const start = times[0]!;
  const by = new Map<string, Map<string, Row[]>>();
  for (const row of rows) {
    const joints = by.get(row.performer) ?? new Map<string, Row[]>();
    by.set(row.performer, joints);
    const own = joints.get(row.joint);
    if (own) own.push(row);
    else joints.set(row.joint, [row]);
  }
  const performers = [...by].map(([who, joints]): Performer => {
    const names = [...joints.keys()];
    const places = new Float32Array(3 * names.length * times.length);
    names.forEach((joint, i) => {
      fill(places, joints.get(joint)!, times, 3 * i, 3 * names.length);
    });
    return { name: who, joints: hung(names, places), places };
  });
  return motionOf(
    name,
    times.map((t) => t - start),
    performers,
  );
}

function rowsOf(name: string, text: string): Row[] {
  const { data } = Papa.parse<string[]>(text.trimStart(), { delimiter: ',' });
  const head = (data[0] ?? []).map((f) => f.trim().toLowerCase());
  const at = COLUMNS.map((c) => head.indexOf(c));
  const rows: Row[] = [];
  data.forEach((fields, line) => {
    if (line === 0 || fields.every((f) => f.trim() === '')) return;
    const [time, who, joint, ...place] = at.map((c) => fields[c]?.trim() ?? '');
    const numbers = [time!, ...place].map((f) => (f === '' ? NaN : Number(f)));
    const bad = numbers.findIndex((n) => !Number.isFinite(n));
    if (bad >= 0 || !joint) {
      const what = joint ? `'${[time, ...place][bad]!}' is no number` : 'the joint has no name';
      throw new StockError(name, `line ${String(line + 1)}: ${what}`);
    }
    const [t, x, y, z] = numbers as [number, number, number, number];
    rows.push({ time: t, performer: who === '' ? 'performer' : who!, joint, place: [x, y, z] });
  });
  if (rows.length === 0) throw new StockError(name, 'there is no joint in it');
  if (rows.length > MOST_ROWS) throw new StockError(name, 'it has more than 5,000,000 rows');
  return rows;
}

/** Writes where a joint is at each time: straight between its rows, as the first and last before and behind them. */
function fill(
  places: Float32Array,
  rows: Row[],
  times: Float64Array,
  at: number,
  stride: number,
): void {
  rows.sort((a, b) => a.time - b.time);
  let next = 0;
  times.forEach((time, k) => {
    while (next < rows.length - 1 && rows[next]!.time < time) next += 1;
    const after = rows[next]!;
    const before = rows[Math.max(0, next - 1)]!;
    const span = after.time - before.time;
    const part = span > 0 ? Math.min(1, Math.max(0, (time - before.time) / span)) : 1;
    for (let c = 0; c < 3; c++) {
      const from = before.place[c]!;
      places[k * stride + at + c] = from + (after.place[c]! - from) * part;
    }
  });
}

/** Joints as a tree of least length (R. C. Prim, 1957) from the first, by their mean distances. */
function hung(names: readonly string[], places: Float32Array): Joint[] {
  const count = names.length;
  const samples = places.length / 3 / count;
  const every = Math.max(1, Math.floor(samples / 64));
  const far = (a: number, b: number): number => {
    let sum = 0;
    for (let k = 0; k < samples; k += every) {
      const [p, q] = [3 * (k * count + a), 3 * (k * count + b)];
      sum += Math.hypot(...[0, 1, 2].map((c) => places[p + c]! - places[q + c]!));
    }
    return sum;
  };
  const parents = names.map(() => 0);
  const nearest = names.map((_, i) => (i === 0 ? -1 : far(0, i)));
  const open = new Set(names.keys());
  open.delete(0);
  while (open.size > 0) {
    const next = [...open].reduce((a, b) => (nearest[b]! < nearest[a]! ? b : a));
    open.delete(next);
    for (const other of open) {
      const distance = far(next, other);
      if (distance < nearest[other]!) [nearest[other], parents[other]] = [distance, next];
    }
  }
  return names.map((name, i) => ({ name, parent: i === 0 ? -1 : parents[i]! }));
}
