import { Vec3, type Expr } from '@vast-swarm/kernel';

/** Away from the nearest place of a kernel: its middle, or its middle line. */
export function round(way: Vec3, radius: Expr): { distance: Expr; normal: Vec3 } {
  const length = way.length();
  const some = length.gt(1e-7);
  const g = length.graph;
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  return { distance: length.sub(radius), normal: Vec3.select(some, way.unit(), up) };
}

/** The same away from the nearest place of a line between two others. */
export function roundLine(p: Vec3, a: Vec3, b: Vec3, radius: Expr): ReturnType<typeof round> {
  const [from, way] = [p.sub(a), b.sub(a)];
  const t = from.dot(way).div(way.dot(way).max(1e-12)).clamp(0, 1);
  return round(from.sub(way.scale(t)), radius);
}
