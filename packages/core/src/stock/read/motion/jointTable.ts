import Papa from 'papaparse';
import type { Joint, Motion, Performer } from '../../types';
import { StockError } from '../error';
import { hung, loopIn } from '../../motion/cast';
import { JOINT_COLUMNS } from './isJointTable';
import { motionOf } from './motionOf';

const MOST_ROWS = 5_000_000;

interface Row {
  time: number;
  performer: string;
  joint: string;
  place: [number, number, number];
  /** The joint that it hangs on; undefined where the table does not say. */
  parent: string | undefined;
  line: number;
}

/**
 * A table of joints: `time,performer,joint,x,y,z`, seconds and metres, y up, in any order. A joint that has no row at
 * a time is straight between those that it has. On which joint another hangs may be said in a column `parent`, by its
 * name; without it each hangs on the nearest that hangs together with the first, by their mean distance.
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
    return { name: who, joints: said(name, joints) ?? hung(names, places), places };
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
  const at = JOINT_COLUMNS.map((c) => head.indexOf(c));
  const said = head.indexOf('parent');
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
    const parent = said < 0 ? undefined : (fields[said]?.trim() ?? '');
    rows.push({
      time: t,
      performer: who === '' ? 'performer' : who!,
      joint,
      parent,
      place: [x, y, z],
      line: line + 1,
    });
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
      const [from, to] = [before.place[c]!, after.place[c]!];
      places[k * stride + at + c] = part === 1 ? to : from + (to - from) * part;
    }
  });
}

/**
 * Joints that hang on those that their first rows name; null where the table names none.
 *
 * @throws StockError with the line, where one is named that is not there, or a joint hangs on itself in the end
 */
function said(name: string, by: ReadonlyMap<string, Row[]>): Joint[] | null {
  const firsts = [...by.values()].map(([row]) => row!);
  if (firsts.every((row) => row.parent === undefined)) return null;
  const names = [...by.keys()];
  const joints = firsts.map(({ joint, parent, line }) => {
    const at = parent ? names.indexOf(parent) : -1;
    if (parent && at < 0) {
      throw new StockError(name, `line ${String(line)}: there is no joint '${parent}'`);
    }
    return { name: joint, parent: at };
  });
  const loose = loopIn(joints);
  if (loose < 0) return joints;
  const { joint, line } = firsts[loose]!;
  throw new StockError(name, `line ${String(line)}: '${joint}' hangs on itself in the end`);
}
