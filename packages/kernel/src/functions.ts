import type { Expr, Graph } from './graph';

/**
 * Elementary functions as polynomials inside the graph: only IEEE-exact operations reach the
 * machine, so the CPU's results are the same bit for bit everywhere. Coefficients and reductions
 * follow S. L. Moshier, Cephes Mathematical Library (single precision), 1989. The bounds, in units
 * in the last place (ulp) against double precision, are measured in test/functions.test.ts.
 */

/** Horner's scheme; the coefficient of the highest power comes first. */
function horner(x: Expr, coefficients: readonly number[]): Expr {
  const [first, ...rest] = coefficients;
  return rest.reduce<Expr>((sum, c) => sum.mul(x).add(c), x.graph.float(first!));
}

function sinOrCos(g: Graph, x: Expr, turn: number): Expr {
  const quarter = x.mul(2 / Math.PI).nearest();
  const r = x
    .sub(quarter.mul(1.5703125))
    .sub(quarter.mul(4.837512969970703e-4))
    .sub(quarter.mul(7.549789954891882e-8));
  const z = r.mul(r);
  const s = horner(z, [-1.9515295891e-4, 8.3321608736e-3, -1.6666654611e-1]);
  const sine = s.mul(z).mul(r).add(r);
  const c = horner(z, [2.443315711809948e-5, -1.388731625493765e-3, 4.166664568298827e-2]);
  const cosine = c
    .mul(z)
    .mul(z)
    .add(g.float(1).sub(z.mul(0.5)));
  const k = quarter.toInt().add(turn);
  const value = k.and(1).eq(0).select(sine, cosine);
  return value.asInt().xor(k.and(2).shl(30)).asFloat();
}

/** Sine of radians: within 2 ulp, or 1e-7 absolute near its zeros, for |x| up to 8192. */
export function sin(x: Expr): Expr {
  return x.graph.define('sin_', ['f32'], (g, p) => [sinOrCos(g, p, 0)])(x)[0]!;
}

/** Cosine of radians: as sin. */
export function cos(x: Expr): Expr {
  return x.graph.define('cos_', ['f32'], (g, p) => [sinOrCos(g, p, 1)])(x)[0]!;
}

function exponential(g: Graph, x: Expr): Expr {
  const inside = x.clamp(-87.3, 88.3);
  const n = inside.mul(Math.LOG2E).nearest();
  const r = inside.sub(n.mul(0.693359375)).sub(n.mul(-2.1219444e-4));
  const p = horner(
    r,
    [
      1.98756915e-4, 1.3981999507e-3, 8.3334519073e-3, 4.1665795894e-2, 1.6666665459e-1,
      0.50000001201,
    ],
  );
  const value = p.mul(r).mul(r).add(r).add(1);
  const power = n.toInt().add(127).shl(23).asFloat();
  return x.lt(-87.3).select(g.float(0), value.mul(power));
}

/** e to the x: within 2 ulp from -87.3 to 88.3; 0 below, e^88.3 above. */
export function exp(x: Expr): Expr {
  return exponential(x.graph, x);
}

function logarithm(x: Expr): Expr {
  const bits = x.max(1.17549435e-38).asInt();
  const e = bits.sub(0x3f3504f3).shrS(23);
  const f = bits.sub(e.shl(23)).asFloat().sub(1);
  const z = f.mul(f);
  const p = horner(
    f,
    [
      7.0376836292e-2, -1.151461031e-1, 1.167699874e-1, -1.2420140846e-1, 1.4249322787e-1,
      -1.6668057665e-1, 2.0000714765e-1, -2.4999993993e-1, 3.3333331174e-1,
    ],
  );
  const exponent = e.toFloat();
  const small = p.mul(f).mul(z).add(exponent.mul(-2.1219444e-4)).sub(z.mul(0.5));
  return f.add(small).add(exponent.mul(0.693359375));
}

/** Natural logarithm: within 2 ulp (1e-7 absolute near 1); zero and less count as 1.2e-38. */
export function log(x: Expr): Expr {
  return x.graph.define('log_', ['f32'], (_, p) => [logarithm(p)])(x)[0]!;
}

/**
 * x to the y for x of 0 and more (0 for x of 0 and less): within 3 + 2 |y ln x| ulp, since the
 * product y ln x is rounded before its exponential is taken.
 */
export function pow(x: Expr, y: Expr): Expr {
  const value = exp(log(x).mul(y));
  return x.gt(0).select(value, x.graph.float(0));
}

function arcTangent2(g: Graph, y: Expr, x: Expr): Expr {
  const ax = x.abs();
  const ay = y.abs();
  const t = ax.min(ay).div(ax.max(ay).max(1e-37));
  const upper = t.gt(0.4142135623730951);
  const r = upper.select(t.sub(1).div(t.add(1)), t);
  const z = r.mul(r);
  const p = horner(z, [8.05374449538e-2, -1.38776856032e-1, 1.99777106478e-1, -3.33329491539e-1]);
  const base = p
    .mul(z)
    .mul(r)
    .add(r)
    .add(upper.select(Math.PI / 4, g.float(0)));
  const steep = ay.gt(ax).select(g.float(Math.PI / 2).sub(base), base);
  const left = x.lt(0).select(g.float(Math.PI).sub(steep), steep);
  return y.lt(0).select(left.neg(), left);
}

/** Angle of (x, y) in radians, -π to π: within 3 ulp; 0 for (0, 0). */
export function atan2(y: Expr, x: Expr): Expr {
  const build = (g: Graph, a?: Expr, b?: Expr): Expr[] => [arcTangent2(g, a!, b!)];
  return y.graph.define('atan2_', ['f32', 'f32'], build)(y, x)[0]!;
}

function hyperbolicTangent(g: Graph, x: Expr): Expr {
  const z = x.mul(x);
  const small = horner(
    z,
    [-5.70498872745e-3, 2.06390887954e-2, -5.37397155531e-2, 1.33314422036e-1, -3.33332819422e-1],
  );
  const inner = small.mul(z).mul(x).add(x);
  const outer = g.float(1).sub(g.float(2).div(exp(x.abs().mul(2)).add(1)));
  const signed = x.lt(0).select(outer.neg(), outer);
  return x.abs().lt(0.625).select(inner, signed);
}

/** Hyperbolic tangent: within 2 ulp. */
export function tanh(x: Expr): Expr {
  return x.graph.define('tanh_', ['f32'], (g, p) => [hyperbolicTangent(g, p)])(x)[0]!;
}

/** a + t (b - a). */
export function mix(a: Expr, b: Expr, t: Expr): Expr {
  return a.add(b.sub(a).mul(t));
}

/** Hermite step from 0 at `low` to 1 at `high`: t² (3 - 2t). */
export function smoothstep(low: Expr, high: Expr, x: Expr): Expr {
  const t = x.sub(low).div(high.sub(low)).clamp(0, 1);
  return t.mul(t).mul(x.graph.float(3).sub(t.mul(2)));
}
