import { interpretFn } from '@vast-swarm/kernel';
import { layout, wgslConstants, Words } from '@vast-swarm/core/plan';
import { patternAt, PATTERNS, shapeFunctions } from '@vast-swarm/core/kinds';

test('words are laid out one behind the other, list after list', () => {
  const made = layout(['a', 'b'], { c: 3, dUp: 1 }, ['e']);
  expect(made).toEqual({ at: { a: 0, b: 1, c: 2, dUp: 5, e: 6 }, size: 7 });
  expect(wgslConstants(made)).toContain('const D_UP = 5;');
  expect(() => layout(['a'], { a: 2 })).toThrow(/two words are called 'a'/);
});

test('words keep whole numbers and numbers of single precision where they belong', () => {
  const words = new Words(layout(['n', 'x'], { row: 2 })).whole({ n: -7 }).real({ row: [0.5, 2] });
  words.real({ x: 1 });
  expect(words.words[0]).toBe(-7);
  expect([...new Float32Array(words.words.buffer)].slice(1)).toEqual([1, 0.5, 2]);
});

test.each(PATTERNS.filter((p) => p !== 'pictures' && p !== 'puff'))(
  'the %s that engines draw is the one whose area is known',
  (kind) => {
    const { results } = shapeFunctions().find((f) => f.name === `pattern_${kind}`)!;
    for (let i = 0; i < 400; i++) {
      const [u, v] = [Math.sin(i * 12.9898) * 1.2, Math.sin(i * 78.233) * 1.2];
      const [edge, param] = [1 + (i % 7), 0.1 + (i % 5) / 6];
      const [drawn] = interpretFn(results, [u, v, edge, param, 1 / param, 3]);
      expect(drawn).toBeCloseTo(patternAt(kind, u, v, edge, param), 4);
    }
  },
);
