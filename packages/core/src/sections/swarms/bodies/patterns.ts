import { functionOf, mix, type Expr, type Fn, type Graph } from '@vast-swarm/kernel';

/** Patterns of marks in their own square, u and v from -1 to 1. */
export const PATTERNS = ['disc', 'ring', 'square', 'spark', 'puff', 'pictures'] as const;
export type Pattern = (typeof PATTERNS)[number];

/** Arithmetic of patterns: with numbers, or with nodes of a graph. */
interface Maths<T> {
  of: (value: number) => T;
  add: (a: T, b: T) => T;
  sub: (a: T, b: T) => T;
  mul: (a: T, b: T) => T;
  min: (a: T, b: T) => T;
  max: (a: T, b: T) => T;
  abs: (a: T) => T;
  sqrt: (a: T) => T;
}

const NUMBERS: Maths<number> = {
  of: (value) => value,
  add: (a, b) => a + b,
  sub: (a, b) => a - b,
  mul: (a, b) => a * b,
  min: Math.min,
  max: Math.max,
  abs: Math.abs,
  sqrt: Math.sqrt,
};

function nodesOf(g: Graph): Maths<Expr> {
  return {
    of: (value) => g.float(value),
    add: (a, b) => a.add(b),
    sub: (a, b) => a.sub(b),
    mul: (a, b) => a.mul(b),
    min: (a, b) => a.min(b),
    max: (a, b) => a.max(b),
    abs: (a) => a.abs(),
    sqrt: (a) => a.sqrt(),
  };
}

/** A place in a pattern's square, and what shapes the pattern. */
interface Spot<T> {
  u: T;
  v: T;
  /** 1 fades from the middle, more is harder. */
  edge: T;
  /** The pattern's own number: half the width of a ring, how far a spark's sides bend in. */
  param: T;
  /** 1 / param. */
  inverse: T;
}

/** t² with t = edge · inside, from 0 to 1. */
function edged<T>(m: Maths<T>, inside: T, edge: T): T {
  const t = m.min(m.mul(m.max(inside, m.of(0)), edge), m.of(1));
  return m.mul(t, t);
}

/** Opacity of a pattern without its noise or picture, 0 to 1; a puff is a soft disc on average. */
function opacity<T>(m: Maths<T>, kind: Pattern, { u, v, edge, param, inverse }: Spot<T>): T {
  const one = m.of(1);
  const short = (far: T): T => edged(m, m.sub(one, far), edge);
  const square = m.add(m.mul(u, u), m.mul(v, v));
  switch (kind) {
    case 'ring': {
      const at = m.mul(m.sub(m.sqrt(square), m.sub(one, param)), inverse);
      return short(m.mul(at, at));
    }
    case 'square':
      return m.mul(short(m.mul(u, u)), short(m.mul(v, v)));
    case 'spark': {
      const [au, av] = [m.abs(u), m.abs(v)];
      const bend = m.mul(m.sqrt(m.mul(au, av)), param);
      return short(m.add(m.add(au, av), bend));
    }
    case 'pictures':
      return one;
    case 'disc':
    case 'puff':
      return short(square);
  }
}

export function patternAt(
  kind: Pattern,
  u: number,
  v: number,
  edge: number,
  param: number,
): number {
  return opacity(NUMBERS, kind, { u, v, edge, param, inverse: 1 / param });
}

/** A number from 0 to 1 for a point of a lattice; the mixing of MurmurHash3 (A. Appleby, 2008). */
function latticeNoise(x: Expr, y: Expr, seed: Expr): Expr {
  let h = x.mul(0x9e3779b1).xor(y.mul(0x85ebca6b)).add(seed);
  h = h.xor(h.shrU(16)).mul(0x85ebca6b);
  h = h.xor(h.shrU(13)).mul(0xc2b2ae35);
  h = h.xor(h.shrU(16));
  return h
    .shrU(8)
    .toFloat()
    .mul(2 ** -24);
}

/** Noise straight between the points of a lattice, with an ease. */
function smoothNoise(g: Graph, u: Expr, v: Expr, seed: Expr): Expr {
  return g.define('smoothNoise', ['f32', 'f32', 'i32'], (inner, pu, pv, key) => {
    const [fu, fv] = [pu.floor(), pv.floor()];
    const [x, y] = [fu.toInt(), fv.toInt()];
    const ease = (t: Expr): Expr => t.mul(t).mul(inner.float(3).sub(inner.float(2).mul(t)));
    const [tu, tv] = [ease(pu.sub(fu)), ease(pv.sub(fv))];
    const [x1, y1] = [x.add(1), y.add(1)];
    const top = mix(latticeNoise(x, y, key), latticeNoise(x1, y, key), tu);
    const low = mix(latticeNoise(x, y1, key), latticeNoise(x1, y1, key), tu);
    return [mix(top, low, tv)];
  })(u, v, seed)[0]!;
}

/** Noise of one puff, another for each: squared noise in two sizes. */
function puffs(g: Graph, u: Expr, v: Expr, fine: Expr, seed: Expr): Expr {
  const finer = g.float(2.3).mul(fine);
  const coarse = smoothNoise(g, u.mul(fine), v.mul(fine), seed);
  const detail = smoothNoise(g, u.mul(finer), v.mul(finer), seed.add(7));
  const noise = coarse.mul(1.3).add(detail.mul(0.7));
  return noise.mul(noise);
}

/**
 * Functions of nodes with which both engines draw bodies: `edged` of inside and edge; and
 * `pattern_<kind>` of u, v, edge, param, 1 / param, and what tells one puff from the next (i32).
 */
export function shapeFunctions(): Fn[] {
  const edge = functionOf('edged', ['f32', 'f32'], (g, inside, hard) => [
    edged(nodesOf(g), inside, hard),
  ]);
  const types = ['f32', 'f32', 'f32', 'f32', 'f32', 'i32'] as const;
  const patterns = PATTERNS.filter((kind) => kind !== 'pictures').map((kind) =>
    functionOf(`pattern_${kind}`, types, (g, u, v, hard, param, inverse, seed) => {
      const plain = opacity(nodesOf(g), kind, {
        u: u,
        v: v,
        edge: hard,
        param: param,
        inverse: inverse,
      });
      return [kind === 'puff' ? plain.mul(puffs(g, u, v, param, seed)) : plain];
    }),
  );
  return [edge, ...patterns];
}

const STEPS = 512;
const areas = new Map<string, number>();

/** Integral of a pattern's opacity over its square, by the midpoint rule; of 4 in all. */
export function patternArea(kind: Pattern, edge: number, param: number): number {
  const key = `${kind} ${String(edge)} ${String(param)}`;
  const known = areas.get(key);
  if (known !== undefined) return known;
  let sum = 0;
  for (let y = 0; y < STEPS; y++) {
    for (let x = 0; x < STEPS; x++) {
      const [u, v] = [x, y].map((i) => ((i + 0.5) / STEPS) * 2 - 1) as [number, number];
      sum += patternAt(kind, u, v, edge, param);
    }
  }
  // Of a puff's squared noise, its mean: measured over the lattice's random numbers.
  const area = (sum * 4 * (kind === 'puff' ? PUFF_MEAN : 1)) / STEPS ** 2;
  areas.set(key, area);
  return area;
}

/** Mean of a puff's noise, (1.3 a + 0.7 b)² for two fields of smooth noise (cpu/test/look.test.ts). */
export const PUFF_MEAN = 1.1;
