import { Vec3, type Expr } from '@vast-swarm/kernel';

/** Passes of a blur along a way: each takes four places, a quarter as far apart as the one before. */
export const PASSES = 3;

/** The mean of four places, at offsets from -1/2 to 1/2 of the whole way. */
export function meanAlong(pass: Expr, at: (offset: Expr) => Vec3): Vec3 {
  const g = pass.graph;
  const step = pass.lt(0.5).select(1 / 4, pass.lt(1.5).select(1 / 16, g.float(1 / 64)));
  return [-1.5, -0.5, 0.5, 1.5]
    .map((k) => at(step.mul(k)))
    .reduce((sum, c) => sum.add(c))
    .scale(1 / 4);
}
