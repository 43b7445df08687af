import { bitonic, LEAST_SORTED } from '../src/lists';
import { SORT } from '../src/shaders/sorting';

/** Invocations of a workgroup, and those in a row of them, as the shader has them. */
const [GROUP, ROW] = [64, 65_536];

/** What an invocation of `stages<count>` does to the numbers in `order`, as its shader says. */
function invocation(
  order: Uint32Array,
  i: number,
  [count, k, j]: readonly [number, number, number],
  after: (a: number, b: number) => boolean,
): void {
  const near = j >> (count - 1);
  const below = i & (near - 1);
  const first = ((i - below) << count) | below;
  const upward = (first & k) === 0;
  const at = (n: number): number => first + n * near;
  for (let apart = 2 ** (count - 1); apart >= 1; apart /= 2) {
    for (let n = 0; n < 2 ** count; n++) {
      if (n & apart) continue;
      const [a, b] = [order[at(n)]!, order[at(n + apart)]!];
      if (after(a, b) === upward) [order[at(n)], order[at(n + apart)]] = [b, a];
    }
  }
}

function sorted(keys: Float32Array, size: number): Uint32Array {
  const order = Uint32Array.from({ length: size }, (_, i) => (i * 7919) % size);
  const past = (n: number): boolean => n >= keys.length;
  const after = (a: number, b: number): boolean => {
    if (past(a) || past(b)) return a > b;
    return keys[a]! < keys[b]! || (keys[a] === keys[b] && a > b);
  };
  bitonic(size, (count, k, j, [x, y]) => {
    const all = size / 2 ** count;
    // Every number is in somebody's hands, in rows that are whole wherever there are several.
    expect(x * GROUP * y).toBeGreaterThanOrEqual(all);
    if (y > 1) expect(x * GROUP).toBe(ROW);
    for (let i = 0; i < all; i++) invocation(order, i, [count, k, j], after);
  });
  return order;
}

test.each([
  [LEAST_SORTED, LEAST_SORTED],
  [LEAST_SORTED, 1],
  [1024, 700],
  [4096, 4095],
  [2 ** 18, 150_000],
])('%i numbers, %i of them with keys, come far to near', (size, count) => {
  // Few keys, so that many are the same.
  const keys = Float32Array.from({ length: count }, (_, i) => ((i * 48_271) % 9973) % 97);
  const order = sorted(keys, size);
  expect(new Set(order).size).toBe(size);
  for (let i = 1; i < count; i++) {
    const [a, b] = [order[i - 1]!, order[i]!];
    const right = keys[a]! > keys[b]! || (keys[a] === keys[b] && a < b);
    if (!right) throw new Error(`${String(b)} stands behind ${String(a)}`);
  }
  // Numbers past the end come last, in order.
  expect([...order.subarray(count, count + 3)]).toEqual(
    [count, count + 1, count + 2].filter((n) => n < size),
  );
});

test('the shader writes out as many exchanges as its stages have', () => {
  for (const [entry, count] of [
    ['stages1', 1],
    ['stages2', 2],
    ['stages3', 3],
  ] as const) {
    const body = SORT.slice(SORT.indexOf(`fn ${entry}(`)).split('@compute')[0]!;
    expect(body.match(/if \(after\(/g)).toHaveLength(count * 2 ** (count - 1));
    expect(body.match(/order\[[^\]]+\] = s\d/g)).toHaveLength(2 ** count);
  }
});
