/**
 * A table to pick from by weight in one step: pick a row at random, then, by a second random
 * number, the row itself or its alias. Source: M. D. Vose, "A Linear Algorithm for Generating Random
 * Numbers with a Given Distribution", IEEE Trans. Software Engineering 17(9), 1991.
 */
export interface Alias {
  /** The part of each row that is its own, 0 to 1. */
  own: Float32Array;
  /** The other row of each (bits of i32). */
  other: Float32Array;
}

/** @param weights 0 or more, not all 0 */
export function aliasOf(weights: ArrayLike<number>): Alias {
  const n = weights.length;
  let total = 0;
  for (let i = 0; i < n; i++) total += weights[i]!;
  const own = new Float32Array(n);
  const other = new Int32Array(n);
  const share = new Float64Array(n);
  const [small, large]: [number[], number[]] = [[], []];
  for (let i = 0; i < n; i++) {
    share[i] = total > 0 ? (weights[i]! * n) / total : 1;
    other[i] = i;
    (share[i]! < 1 ? small : large).push(i);
  }
  while (small.length > 0 && large.length > 0) {
    const [s, l] = [small.pop()!, large.pop()!];
    own[s] = share[s]!;
    other[s] = l;
    share[l] = share[l]! + share[s]! - 1;
    (share[l] < 1 ? small : large).push(l);
  }
  for (const i of [...small, ...large]) own[i] = 1;
  return { own, other: new Float32Array(other.buffer) };
}
