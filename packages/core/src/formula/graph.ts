import { atan2, cos, exp, hash, log, pow, sin, type Expr, type Graph } from '@vast-swarm/kernel';
import { evaluate, type Algebra } from './evaluate';
import type { Formula, Name } from './parse';

/** Inputs of a formula from a particle. */
export interface OfParticle {
  name: (name: Name) => Expr;
  /** A random number of the particle, by a whole number (i32). */
  pick: (number: Expr) => Expr;
  /** A picture's brightness where the particle was born, or at a place. */
  map: (id: string, at: readonly [Expr, Expr] | null) => Expr;
}

/** Formulas inside kernels. Comparisons give 1 or 0. */
function nodes(g: Graph, { name, pick, map }: OfParticle): Algebra<Expr> {
  const truth = (is: Expr): Expr => is.select(1, g.float(0));
  const some = (a: Expr): Expr => a.eq(0).not();
  // As latticeNoise on the host.
  const noise = ([x, ...others]: readonly Expr[], key: Expr | null): Expr => {
    const low = x!.floor();
    const t = x!.sub(low);
    const cell = low.clamp(-1e9, 1e9).toInt();
    const value = (i: number): Expr => {
      const mixed = hash(key ? cell.add(i).xor(key) : cell.add(i));
      if (others.length > 0) return noise(others, mixed);
      return mixed
        .shrU(8)
        .toFloat()
        .mul(2 ** -23)
        .sub(1);
    };
    const ease = t.mul(t).mul(g.float(3).sub(t.mul(2)));
    const from = value(0);
    return from.add(value(1).sub(from).mul(ease));
  };
  return {
    number: (v) => g.float(v),
    name,
    map,
    signal() {
      throw new Error('Signals are refused in formulas of particles');
    },
    negate: (a) => a.neg(),
    not: (a) => truth(a.eq(0)),
    choose: (test, yes, no) => some(test).select(yes, no),
    binary: {
      '+': (a, b) => a.add(b),
      '-': (a, b) => a.sub(b),
      '*': (a, b) => a.mul(b),
      '/': (a, b) => a.div(b),
      '%': (a, b) => a.sub(b.mul(a.div(b).floor())),
      '^': (a, b) => power(a, b),
      '<': (a, b) => truth(a.lt(b)),
      '>': (a, b) => truth(a.gt(b)),
      '<=': (a, b) => truth(a.le(b)),
      '>=': (a, b) => truth(a.ge(b)),
      '==': (a, b) => truth(a.eq(b)),
      '!=': (a, b) => truth(a.eq(b).not()),
      '&&': (a, b) => truth(some(a).and(some(b))),
      '||': (a, b) => truth(some(a).or(some(b))),
    },
    call: {
      sin: (a) => sin(a),
      cos: (a) => cos(a),
      abs: (a) => a.abs(),
      sign: (a) => truth(a.gt(0)).sub(truth(a.lt(0))),
      floor: (a) => a.floor(),
      round: (a) => a.add(0.5).floor(),
      fract: (a) => a.sub(a.floor()),
      sqrt: (a) => a.sqrt(),
      exp: (a) => exp(a),
      log: (a) => logarithm(a),
      noise: (...at) => noise(at, null),
      pick: (a) => pick(a.clamp(-1e9, 1e9).toInt()),
      min: (a, b) => a.min(b),
      max: (a, b) => a.max(b),
      atan2: (a, b) => atan2(a, b),
      clamp: (a, low, high) => a.max(low).min(high),
      mix: (a, b, t) => a.add(b.sub(a).mul(t)),
      smooth: (low, high, a) => {
        const t = a.sub(low).div(high.sub(low)).clamp(0, 1);
        return t.mul(t).mul(g.float(3).sub(t.mul(2)));
      },
    },
  };
}

/** A node without a value (NaN). */
function nothing(g: Graph): Expr {
  return g.float(0).div(0);
}

/** Infinity, as 1 over a number that nears 0 from above. */
function endless(g: Graph): Expr {
  return g.float(1).div(0);
}

/** The logarithm as on the host; the kernel's own knows numbers above 0 alone. */
function logarithm(a: Expr): Expr {
  const g = a.graph;
  return a.gt(0).select(log(a), a.eq(0).select(endless(g).neg(), nothing(g)));
}

/**
 * Powers as on the host: of numbers below 0 where the exponent is whole, 1 where it is 0, of 0 nothing
 * below 0. What has no value becomes a number that is not finite.
 */
function power(a: Expr, b: Expr): Expr {
  const g = a.graph;
  const n = b.kind === 'const' ? b.imm : NaN;
  if (n === 2) return a.mul(a);
  if (n === 3) return a.mul(a).mul(a);
  const size = pow(a.abs().max(1e-37), b);
  const whole = b.floor().eq(b);
  const half = b.mul(0.5);
  const odd = whole.and(half.floor().eq(half).not());
  const signed = odd.select(size.neg(), size);
  const below = whole.select(signed, nothing(g));
  const ofZero = b.gt(0).select(g.float(0), endless(g));
  const value = a.lt(0).select(below, a.eq(0).select(ofZero, size));
  return b.eq(0).select(1, value);
}

/** A formula as arithmetic. What has no finite value counts as 0. */
export function formulaNode(formula: Formula, g: Graph, particle: OfParticle): Expr {
  const value = evaluate(formula, nodes(g, particle));
  // By the bits of the exponent: a compiler may take it that numbers are finite.
  const finite = value.asInt().and(0x7f800000).eq(0x7f800000).not();
  return finite.select(value, g.float(0));
}
