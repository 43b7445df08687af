import type { Biquad } from './biquad';

/** What rings below any hearing would slow the processor down. */
const still = (v: number): number => (Math.abs(v) < 1e-30 ? 0 : v);

/**
 * Filters of a chain, two at a time over a block in place: what the one leaves the other takes at once, so that the
 * processor works at both while it waits for neither.
 */
export class BiquadChain {
  private readonly pairs: [Biquad, Biquad][] = [];
  private readonly states: Float64Array[] = [];

  /** @param filters an even number of them */
  constructor(filters: readonly Biquad[]) {
    for (let i = 0; i < filters.length; i += 2) {
      this.pairs.push([filters[i]!, filters[i + 1]!]);
      this.states.push(new Float64Array(4));
    }
  }

  run(block: Float64Array, count: number): void {
    const { pairs, states } = this;
    if (pairs.length === 2) runTwo(block, count, pairs[0]!, pairs[1]!, states[0]!, states[1]!);
    else if (pairs.length === 1) runOne(block, count, pairs[0]!, states[0]!);
  }
}

function runOne(block: Float64Array, count: number, [a, b]: [Biquad, Biquad], state: Float64Array) {
  let [s1, s2, t1, t2] = state as unknown as [number, number, number, number];
  const { b0, b1, b2, a1, a2 } = a;
  const { b0: d0, b1: d1, b2: d2, a1: c1, a2: c2 } = b;
  for (let i = 0; i < count; i++) {
    const x = block[i]!;
    const y = b0 * x + s1;
    s1 = b1 * x - a1 * y + s2;
    s2 = b2 * x - a2 * y;
    const z = d0 * y + t1;
    t1 = d1 * y - c1 * z + t2;
    t2 = d2 * y - c2 * z;
    block[i] = z;
  }
  state.set([still(s1), still(s2), still(t1), still(t2)]);
}

function runTwo(
  block: Float64Array,
  count: number,
  [a, b]: [Biquad, Biquad],
  [c, d]: [Biquad, Biquad],
  first: Float64Array,
  second: Float64Array,
) {
  let [s1, s2, t1, t2] = first as unknown as [number, number, number, number];
  let [u1, u2, v1, v2] = second as unknown as [number, number, number, number];
  const { b0: p0, b1: p1, b2: p2, a1: pa, a2: pb } = a;
  const { b0: q0, b1: q1, b2: q2, a1: qa, a2: qb } = b;
  const { b0: r0, b1: r1, b2: r2, a1: ra, a2: rb } = c;
  const { b0: w0, b1: w1, b2: w2, a1: wa, a2: wb } = d;
  for (let i = 0; i < count; i++) {
    const x = block[i]!;
    const y = p0 * x + s1;
    s1 = p1 * x - pa * y + s2;
    s2 = p2 * x - pb * y;
    const z = q0 * y + t1;
    t1 = q1 * y - qa * z + t2;
    t2 = q2 * y - qb * z;
    const g = r0 * z + u1;
    u1 = r1 * z - ra * g + u2;
    u2 = r2 * z - rb * g;
    const h = w0 * g + v1;
    v1 = w1 * g - wa * h + v2;
    v2 = w2 * g - wb * h;
    block[i] = h;
  }
  first.set([still(s1), still(s2), still(t1), still(t2)]);
  second.set([still(u1), still(u2), still(v1), still(v2)]);
}
