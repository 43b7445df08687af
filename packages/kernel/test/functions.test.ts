import { atan2, cos, exp, Graph, log, pow, sin, tanh, type Expr } from '../src';
import { generator, runWasm } from './harness';

const COUNT = 40000;
const next = generator(5);

function apply(build: (a: Expr, b: Expr) => Expr, a: Float32Array, b = a): Float32Array {
  const g = new Graph();
  g.store('out', build(g.load('a', g.lane()), g.load('b', g.lane())));
  return runWasm(g, COUNT, { a, b, out: new Float32Array(COUNT) }, {}).out as Float32Array;
}

function range(low: number, high: number): Float32Array {
  return Float32Array.from({ length: COUNT }, () => low + next() * (high - low));
}

/** The largest error in units in the last place; errors below `floor` count as none. */
function ulps(got: Float32Array, exact: (i: number) => number, floor = 0): number {
  let worst = 0;
  got.forEach((value, i) => {
    const wanted = exact(i);
    const unit = 2 ** (Math.max(-126, Math.floor(Math.log2(Math.abs(wanted) || 1e-38))) - 23);
    const error = Math.abs(value - wanted);
    if (error > floor) worst = Math.max(worst, error / unit);
  });
  return worst;
}

test.each([
  ['sin', sin, Math.sin, -8192, 8192, 1e-7, 2],
  ['cos', cos, Math.cos, -8192, 8192, 1e-7, 2],
  ['exp', exp, Math.exp, -87, 88, 0, 2],
  ['log', log, Math.log, 1e-30, 50, 1e-7, 2],
  ['tanh', tanh, Math.tanh, -12, 12, 0, 2],
] as const)('%s keeps the bound of its docstring', (_, build, exact, low, high, floor, bound) => {
  const x = range(low, high);
  expect(ulps(apply(build, x), (i) => exact(x[i]!), floor)).toBeLessThanOrEqual(bound);
});

test('atan2 keeps its bound in all quadrants', () => {
  const [y, x] = [range(-9, 9), range(-9, 9)];
  expect(ulps(apply(atan2, y, x), (i) => Math.atan2(y[i]!, x[i]!))).toBeLessThanOrEqual(3);
});

test('pow keeps its bound, and zero stays zero', () => {
  const [x, y] = [range(0, 40), range(-6, 6)];
  const got = apply(pow, x, y);
  const beyond = x.filter((_, i) => {
    const wanted = x[i]! ** y[i]!;
    const bound = 3 + 2 * Math.abs(y[i]! * Math.log(x[i]!));
    return !(Math.abs(got[i]! - wanted) / wanted <= bound * 2 ** -23);
  });
  expect([...beyond]).toEqual([]);
  expect(apply(pow, new Float32Array(COUNT), range(0.1, 3))[0]).toBe(0);
});

test('out of range arguments give limits, not NaN', () => {
  const x = new Float32Array(COUNT);
  x.set([-1000, 1000, -Infinity, Infinity]);
  const got = apply(exp, x);
  expect([...got.subarray(0, 3)]).toEqual([0, expect.any(Number), 0]);
  expect(got.subarray(0, 4).every(Number.isFinite)).toBe(true);
  expect([...apply(tanh, x).subarray(0, 4)]).toEqual([-1, 1, -1, 1]);
});

test('what stands there already is not put there again, unless something else was', () => {
  const g = new Graph();
  const [a, b] = ['a', 'b'].map((name) => g.load(name, g.lane()));
  g.store('a', a!);
  g.store('b', a!);
  // The last one counts: what was there first comes back.
  g.store('b', b!);
  expect(g.stores.map((s) => g.buffers[s.buffer]!.name)).toEqual(['b', 'b']);
  const given = { a: range(0, 1), b: range(5, 6) };
  const after = runWasm(g, COUNT, { a: given.a.slice(), b: given.b.slice() }, {});
  expect(after).toMatchObject(given);
});
