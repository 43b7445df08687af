import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { functionOf, interpretFn, toAssembly, type Expr, type Fn, type Graph } from '../src';
import { OPERATIONS, SHIFTS, type OperationName } from '../src/ops';
import { bits, generator } from './harness';

const FUNCTIONS = 40;

/** A random function of two numbers and a whole one, without loops. */
function randomFunction(seed: number, used: Set<string>): Fn {
  const next = generator(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const names = Object.keys(OPERATIONS) as OperationName[];
  return functionOf(`random${String(seed)}`, ['f32', 'f32', 'i32'], (g: Graph, a, b, k) => {
    const pool: Record<string, Expr[]> = {
      f32: [a, b, g.float(next() * 8 - 4), g.float(-0)],
      i32: [k, g.int(next() * 1e9)],
      bool: [a.lt(b)],
    };
    for (let i = 0; i < 40; i++) {
      const name = pick(names);
      used.add(name);
      const args = OPERATIONS[name].args.map((type) => pick(pool[type]!));
      const made = SHIFTS.has(name)
        ? g.shift(name as 'shl', args[0]!, Math.floor(next() * 32))
        : g.op(name, ...args);
      pool[made.type]!.push(made);
      if (i % 10 !== 9) continue;
      const called = g.define(`inner${String(seed)}`, ['f32'], (_, x) => [x.mul(x).sub(0.5)]);
      pool.f32!.push(called(pool.f32!.at(-1)!)[0]!);
    }
    return [pool.bool!.at(-1)!.select(pool.f32!.at(-1)!, pool.i32!.at(-1)!.asFloat())];
  });
}

/** Compiles functions as the rasteriser is compiled; each reads three vectors at 0 and leaves one at 48. */
function compiled(functions: readonly Fn[]): WebAssembly.Instance {
  const folder = mkdtempSync(join(tmpdir(), 'assembly-'));
  try {
    const entries = functions.map(
      ({ name }) =>
        `export function run_${name}(): void { v128.store(48, ${name}(v128.load(0), v128.load(16), v128.load(32))); }`,
    );
    // Only what is called from here goes out.
    const inside = functions.map((fn) => toAssembly(fn).replaceAll('export function', 'function'));
    const text = [...inside, ...entries].join('\n');
    writeFileSync(join(folder, 'all.ts'), text.replace(/^\/\/ @inline$/gm, '@inline'));
    const asc = join(__dirname, '../../../node_modules/.bin/asc');
    const options = ['-O3', '--runtime', 'stub', '--enable', 'simd', '--memoryBase', '64'];
    execFileSync(asc, ['all.ts', '--outFile', 'all.wasm', ...options], { cwd: folder });
    const module = new WebAssembly.Module(readFileSync(join(folder, 'all.wasm')));
    return new WebAssembly.Instance(module, { env: { abort: () => undefined } });
  } finally {
    rmSync(folder, { recursive: true });
  }
}

test('AssemblyScript agrees with the interpreter bit for bit on random functions', () => {
  const used = new Set<string>();
  const functions = Array.from({ length: FUNCTIONS }, (_, seed) => randomFunction(seed, used));
  expect([...used].sort()).toEqual(Object.keys(OPERATIONS).sort());
  const { exports } = compiled(functions);
  const { buffer } = exports.memory as WebAssembly.Memory;
  const [floats, words] = [new Float32Array(buffer), new Int32Array(buffer)];
  const next = generator(7);
  for (const { name, results } of functions) {
    const inputs = Array.from({ length: 4 }, () => [
      Math.fround(next() * 20 - 10),
      Math.fround(next() * 20 - 10),
      (next() * 4e9 - 2e9) | 0,
    ]);
    inputs.forEach(([a, b, k], lane) => {
      [floats[lane], floats[4 + lane], words[8 + lane]] = [a!, b!, k!];
    });
    (exports[`run_${name}`] as () => void)();
    const wanted = Float32Array.from(inputs, (given) => interpretFn(results, given)[0]!);
    expect({ name, bits: bits(floats.slice(12, 16)) }).toEqual({ name, bits: bits(wanted) });
  }
});

test('a function with a loop is refused', () => {
  const looped = functionOf('looped', ['f32'], (g, x) =>
    g.loop(g.int(3), [x], (_, [sum]) => [sum!.add(1)]),
  );
  expect(() => toAssembly(looped)).toThrow(/'looped' has a loop/);
});
