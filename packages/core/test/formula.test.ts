import { functionOf, interpretFn } from '@vast-swarm/kernel';
import {
  FormulaError,
  formulaMaps,
  formulaSignals,
  FUNCTIONS,
  parseFormula,
} from '@vast-swarm/core/feeds';
import { OPERATORS } from '../src/formula/parse';
import { formulaNode } from '../src/formula/graph';
import { formulaAt } from '../src/formula/numbers';
import { generator } from '../../kernel/test/harness';

const moment = { time: 2, rate: 30, seed: 7 };
const value = (text: string): number => formulaAt(parseFormula(text, false), moment);

test.each<[string, number]>([
  ['1 + 2 * 3', 7],
  ['(1 + 2) * 3', 9],
  ['2 ^ 3 ^ 2', 512],
  ['-2 + 5', 3],
  ['(-2) ^ 2', 4],
  ['-(2 ^ 2)', -4],
  ['-7 % 3', 2],
  ['time * 2 + frame', 63],
  ['seed', 7],
  ['2 > 1 && 1 > 2', 0],
  ['!(1 == 2) || 0', 1],
  ['time > 1 ? 10 : 20', 10],
  ['clamp(5, 0, 1) + mix(10, 20, 0.5)', 16],
  ['min(3, 4) + max(3, 4) + abs(-2)', 9],
  ['round(2.5) + floor(-0.5) + fract(1.25)', 2.25],
  ['smooth(0, 2, 1)', 0.5],
  ['sign(-3)', -1],
  ['1 - (3) ^ 2', -8],
  ['2 * -(3 ^ 2)', -18],
  ['(-max(1, 3)) ^ 2', 9],
  ['1.5e1 + .5', 15.5],
])('%s is %d', (text, wanted) => {
  expect(value(text)).toBeCloseTo(wanted);
});

test('what has no finite value counts as 0', () => {
  for (const text of ['1 / 0', '0 / 0', 'log(0)', 'sqrt(-1)', '10 ^ 400']) {
    expect(value(text)).toBe(0);
  }
});

test('noise along a line is smooth, stays within 1 and differs', () => {
  const at = (x: number): number => value(`noise(${String(x)})`);
  let [low, high] = [1, -1];
  for (let i = 0; i < 400; i++) {
    expect(Math.abs(at(i / 20 + 0.001) - at(i / 20))).toBeLessThan(0.01);
    low = Math.min(low, at(i / 20));
    high = Math.max(high, at(i / 20));
  }
  expect(low).toBeGreaterThanOrEqual(-1);
  expect(low).toBeLessThan(-0.3);
  expect(high).toBeGreaterThan(0.3);
});

test('noise of two and three values is smooth, stays within 1, and has values of its own on its lattice', () => {
  const at = (...place: number[]): number =>
    value(`noise(${place.map((v) => `(${String(v)})`).join(', ')})`);
  for (const dimensions of [2, 3]) {
    const place = (i: number): number[] =>
      Array.from({ length: dimensions }, (_, k) => ((i * (0.37 + 0.21 * k)) % 9) - 4);
    const seen = Array.from({ length: 500 }, (_, i) => at(...place(i)));
    expect(Math.min(...seen)).toBeGreaterThanOrEqual(-1);
    expect(Math.max(...seen)).toBeLessThanOrEqual(1);
    expect(Math.max(...seen) - Math.min(...seen)).toBeGreaterThan(1);
    for (let i = 0; i < 100; i++) {
      const [first, ...rest] = place(i) as [number, ...number[]];
      for (let axis = 0; axis < dimensions; axis++) {
        const near = place(i).map((v, k) => (k === axis ? v + 1e-4 : v));
        expect(Math.abs(at(...near) - at(first, ...rest))).toBeLessThan(5e-4);
      }
    }
    // No line or diagonal of the lattice repeats another's.
    const lattice = Array.from({ length: 64 }, (_, i) =>
      at(i % 8, Math.floor(i / 8), ...(dimensions === 3 ? [i % 5] : [])),
    );
    expect(new Set(lattice).size).toBe(64);
  }
});

test.each<[string, number, string]>([
  ['noise(1, 2, 3, 4)', 1, 'noise takes 1 to 3 values, not 4'],
  ['1 + map(tide)', 5, "'map' belongs to a particle"],
  ['1 + foo * 2', 5, "'foo' is not known"],
  ['time + time * speeed', 15, "'speeed' is not known"],
  ['sin(1) + sin(1, 2)', 10, 'sin takes 1 value, not 2'],
  ['2 + shine(3)', 5, "no function 'shine'"],
  // Names that every object of the language has.
  ['1 + toString(1)', 5, "no function 'toString'"],
  ['constructor(1)', 1, "no function 'constructor'"],
  ['2 * valueOf', 5, "'valueOf' is not known"],
  ['__proto__', 1, "'__proto__' is not known"],
  ['hasOwnProperty(1)', 1, "no function 'hasOwnProperty'"],
  ['sin + 1', 1, 'wants brackets'],
  ['1 + * 2', 5, ''],
  ['(1 + 2', 7, ''],
  ['-time ^ 2', 7, 'set brackets'],
  ['', 1, 'a formula is wanted'],
  ["'text'", 2, 'text has no place'],
  ['age * 2', 1, 'belongs to a particle'],
  ['2 * pick(3)', 5, 'belongs to a particle'],
  ['-(3) ^ 2', 6, 'set brackets'],
  ['2 + -max(1, 3) ^ 2', 16, 'set brackets'],
  ['1 & 2', 3, "'and' is written &&"],
  ['1 | 2', 3, "'or' is written ||"],
  ['time = 2', 6, "'equal' is written =="],
  ['2 ** 3', 3, 'a power is written ^'],
  ['~1', 1, "'~' is not known"],
  ['5!', 2, "'!' stands before"],
  ['0,5 * time', 2, 'a decimal point is written .'],
  ['(0,5)', 3, 'a decimal point is written .'],
  ['2 × 3', 3, "'times' is written *"],
  ['1 2', 3, "no sign between '1' and '2'"],
  ['2 time', 3, "no sign between '2' and 'time'"],
  ['(1)(2)', 4, "no sign between ')' and '('"],
  ['sin 3', 1, 'wants brackets'],
])('the error in %s is at character %d', (text, at, problem) => {
  expect(() => parseFormula(text, false)).toThrow(FormulaError);
  try {
    parseFormula(text, false);
  } catch (error) {
    expect((error as Error).message).toContain(problem);
    expect((error as FormulaError).at + 1).toBe(at);
  }
});

test('readings are known where there is a particle', () => {
  expect(() => parseFormula('age / life + speed * pick(3)', true)).not.toThrow();
  expect(() => parseFormula('map(tide) + map("a-b", fract(x), 0.5)', true)).not.toThrow();
  // An id may be called as a function is.
  expect(formulaMaps('map(noise) + noise(map(sin))')).toEqual(['noise', 'sin']);
  expect(formulaSignals('signal(wave) * signal(noise)')).toEqual(['wave', 'noise']);
  for (const text of ['map()', 'map(3)', 'map(tide, 1)', 'map(tide, 1, 2, 3)']) {
    expect(() => parseFormula(text, true)).toThrow('map takes the id of a picture');
  }
});

/** A random formula of the frame's names that has a value, with brackets round every part. */
function randomFormula(next: () => number, depth: number): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const inner = (): string => randomFormula(next, depth - 1);
  if (depth === 0 || next() < 0.15) {
    return pick(['time', 'seed', 'pi', '0', '1', '2', '3', '0.5', '(-2)', '(-0.75)', '4']);
  }
  // What jumps, as floor and %, is left to tests of its own: there the last bit decides.
  const operators = OPERATORS.filter((o) => !['/', '%', '^'].includes(o));
  const calm = ['abs', 'sign', 'exp', 'sin', 'cos', 'min', 'max', 'mix', 'clamp'] as const;
  const makes = [
    () => `(${inner()} ${pick(operators)} ${inner()})`,
    () => `(${inner()} / (abs(${inner()}) + 0.5))`,
    () => `((${inner()}) ^ ${pick(['0', '1', '2', '3', '4', '(1 + 2)', '(2 - 2)'])})`,
    () => `((abs(${inner()}) + 0.25) ^ ${inner()})`,
    () => `(-${inner()})`,
    () => `(!${inner()})`,
    () => `(${inner()} ? ${inner()} : ${inner()})`,
    () => `log(abs(${inner()}) + 0.1) + sqrt(abs(${inner()}))`,
    () => {
      const name = pick(calm);
      const count = FUNCTIONS[name];
      const length = typeof count === 'number' ? count : pick([1, 2, 3]);
      return `${name}(${Array.from({ length }, inner).join(', ')})`;
    },
  ];
  return pick(makes)();
}

/** What a particle's formula gives where there is nothing of a particle in it. */
function asNode(text: string): number {
  const names: Partial<Record<string, number>> = { time: 2, frame: 60, seed: 7, pi: Math.PI };
  const parsed = parseFormula(text, false);
  const { results } = functionOf('formula', [], (g) => [
    formulaNode(parsed, g, {
      name: (name) => g.float(names[name]!),
      pick: () => g.float(0),
      map: () => g.float(0),
    }),
  ]);
  return interpretFn(results, [])[0]!;
}

test.each([
  '(-2) ^ 3',
  '(-2) ^ (2 + 1)',
  '(-2) ^ 4',
  '(-2) ^ (-1)',
  '0 ^ 0',
  '0 ^ 2',
  '2 ^ (-2)',
  '(-2) ^ 0.5',
  '0 ^ (-1)',
  'log(0)',
  'log(-1)',
  'sqrt(-1)',
  '1 / 0',
])('%s is the same for a frame and for a particle', (text) => {
  expect(asNode(text)).toBeCloseTo(value(text), 5);
});

test('formulas of frames and of particles give the same for 3,000 random texts', () => {
  const next = generator(11);
  let [compared, powers] = [0, 0];
  const apart: string[] = [];
  for (let i = 0; i < 3000; i++) {
    const text = randomFormula(next, 3);
    const [wanted, found] = [value(text), asNode(text)];
    // Single precision: what is large, or as good as nothing, and borders of comparisons, are passed over.
    if (Math.max(Math.abs(wanted), Math.abs(found)) > 1e4) continue;
    if (wanted !== 0 && Math.abs(wanted) < 1e-4) continue;
    compared += 1;
    if (text.includes('^')) powers += 1;
    if (!(Math.abs(found - wanted) <= 2e-3 * (1 + Math.abs(wanted)))) apart.push(text);
  }
  expect(apart).toEqual([]);
  expect(compared).toBeGreaterThan(2000);
  expect(powers).toBeGreaterThan(200);
});
