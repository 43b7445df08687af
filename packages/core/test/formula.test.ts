import { FormulaError, parseFormula } from '../src';
import { formulaAt } from '../src/formula/numbers';

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
  ['time * 2 + frame', 64],
  ['seed', 7],
  ['2 > 1 && 1 > 2', 0],
  ['!(1 == 2) || 0', 1],
  ['time > 1 ? 10 : 20', 10],
  ['clamp(5, 0, 1) + mix(10, 20, 0.5)', 16],
  ['min(3, 4) + max(3, 4) + abs(-2)', 9],
  ['round(2.5) + floor(-0.5) + fract(1.25)', 2.25],
  ['smooth(0, 2, 1)', 0.5],
  ['sign(-3)', -1],
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

test.each<[string, number, string]>([
  ['1 + foo * 2', 5, "'foo' is not known"],
  ['time + time * speeed', 15, "'speeed' is not known"],
  ['sin(1) + sin(1, 2)', 10, 'sin takes 1 value, not 2'],
  ['2 + shine(3)', 5, "no function 'shine'"],
  ['sin + 1', 1, 'wants brackets'],
  ['1 + * 2', 5, ''],
  ['(1 + 2', 7, ''],
  ['-time ^ 2', 7, 'set brackets'],
  ['', 1, 'a formula is wanted'],
  ["'text'", 2, 'text has no place'],
  ['age * 2', 1, 'belongs to a particle'],
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
});
