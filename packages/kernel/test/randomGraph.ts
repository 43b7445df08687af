import { Graph, type Expr } from '../src';
import { OPERATIONS, SHIFTS, type OperationName } from '../src/ops';
import { generator } from './harness';

/** A random kernel over all operations, with loads, gathers, loops, functions, masked stores. */
export function randomGraph(seed: number, nodes = 60): Graph {
  const next = generator(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const g = new Graph();
  const lane = g.lane();
  const pool: Record<string, Expr[]> = {
    f32: [g.load('a', lane), g.load('b', lane.add(4)), g.uniform('u'), g.float(next() * 8 - 4)],
    i32: [lane, g.uniform('n', 'i32'), g.load('k', lane, 'i32'), g.int(next() * 1e9)],
    bool: [g.load('a', lane).lt(g.load('b', lane))],
  };
  const names = Object.keys(OPERATIONS) as OperationName[];
  const keep = (e: Expr): void => void pool[e.type]!.push(e);
  for (let i = 0; i < nodes; i++) {
    const choice = next();
    if (choice < 0.04) {
      const index = pick(pool.i32!).and(15);
      keep(g.load('a', index));
    } else if (choice < 0.08) {
      const fn = g.define(`f${String(i)}`, ['f32', 'i32'], (inner, x, k) => [
        x.mul(inner.float(next())).add(k.toFloat()),
        k.xor(77).shl(3),
      ]);
      fn(pick(pool.f32!), pick(pool.i32!)).forEach(keep);
    } else if (choice < 0.12) {
      const [factor, outer] = [pick(pool.f32!), pick(pool.i32!)];
      // Every other loop turns as often as its lane says.
      const turns = choice < 0.1 ? g.uniform('turns', 'i32') : pick(pool.i32!).and(3);
      // Every other loop is left by a lane when its own numbers say so.
      const leaves = next() < 0.5;
      g.loopWhile(turns, [pick(pool.f32!), pick(pool.i32!)], (turn, [x, k]) => {
        const [sum] = g.loop(g.int(2), [x!], (inner, [y]) => [y!.add(inner.toFloat().mul(factor))]);
        const after = [sum!.mul(0.5), k!.add(turn).xor(outer)];
        return { next: after, goOn: leaves ? after[1]!.and(1).eq(0) : null };
      }).forEach(keep);
    } else {
      const name = pick(names);
      const args = OPERATIONS[name].args.map((type) => pick(pool[type]!));
      keep(
        SHIFTS.has(name)
          ? g.shift(name as 'shl', args[0]!, Math.floor(next() * 32))
          : g.op(name, ...args),
      );
    }
  }
  const last = (type: string): Expr => pool[type]!.at(-1)!;
  g.store('outF', last('f32'));
  g.store('outI', last('i32'));
  g.store('masked', pool.f32!.at(-2)!, last('bool'));
  return g;
}
