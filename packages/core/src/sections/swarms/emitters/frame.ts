import { Vec3 } from '@vast-swarm/kernel';

/**
 * Two unit vectors square to the unit vector `axis` and to each other, right-handed.
 * Source: T. Duff et al., "Building an Orthonormal Basis, Revisited", JCGT 6(1), 2017.
 */
export function frameAround(axis: Vec3): { u: Vec3; v: Vec3 } {
  const g = axis.x.graph;
  const sign = axis.z.ge(0).select(g.float(1), g.float(-1));
  const a = g.float(-1).div(sign.add(axis.z));
  const b = axis.x.mul(axis.y).mul(a);
  const u = new Vec3(
    sign.mul(axis.x).mul(axis.x).mul(a).add(1),
    sign.mul(b),
    sign.mul(axis.x).neg(),
  );
  const v = new Vec3(b, axis.y.mul(axis.y).mul(a).add(sign), axis.y.neg());
  return { u, v };
}
