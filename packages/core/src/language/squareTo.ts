import { Vec3 } from '@vast-swarm/kernel';

/** Two unit vectors square to a unit vector and to each other (T. Duff et al., "Building an Orthonormal Basis, Revisited", 2017). */
export function squareTo({ x, y, z }: Vec3): [Vec3, Vec3] {
  const g = x.graph;
  const sign = z.ge(0).select(g.float(1), g.float(-1));
  const a = g.float(-1).div(sign.add(z));
  const b = x.mul(y).mul(a);
  return [
    new Vec3(sign.mul(x).mul(x).mul(a).add(1), sign.mul(b), sign.mul(x).neg()),
    new Vec3(b, y.mul(y).mul(a).add(sign), y.neg()),
  ];
}
