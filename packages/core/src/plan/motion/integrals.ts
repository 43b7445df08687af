import { exp, type Expr } from '@vast-swarm/kernel';

/** e^(-kh), φ1 and φ2; by their series where k h is small and the quotients would cancel. */
export function integrals(h: Expr, k: Expr | undefined): { keep?: Expr; one: Expr; two: Expr } {
  const g = h.graph;
  if (!k) return { one: h, two: h.mul(h).mul(0.5) };
  const x = k.mul(h);
  const keep = exp(x.neg());
  const small = x.lt(0.2);
  const series = (coefficients: number[]): Expr =>
    coefficients.reduce<Expr>((s, c) => s.mul(x).add(c), g.float(0));
  const safe = k.max(1e-9);
  const near1 = h.mul(series([1 / 120, -1 / 24, 1 / 6, -1 / 2, 1]));
  const one = small.select(near1, g.float(1).sub(keep).div(safe));
  const near2 = h.mul(h).mul(series([1 / 720, -1 / 120, 1 / 24, -1 / 6, 1 / 2]));
  const two = small.select(near2, h.sub(one).div(safe));
  return { keep, one, two };
}
