import { Vec3, type Expr } from '@vast-swarm/kernel';

/** Away from the nearest place of a kernel: its middle, or its middle line. */
export function round(way: Vec3, radius: Expr): { distance: Expr; normal: Vec3 } {
  const length = way.length();
  const some = length.gt(1e-7);
  const g = length.graph;
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  return { distance: length.sub(radius), normal: Vec3.select(some, way.unit(), up) };
}
