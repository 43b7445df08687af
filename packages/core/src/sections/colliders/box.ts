import { Vec3, type Expr } from '@vast-swarm/kernel';
import { vector } from '../../language/dials';
import { collider } from '../define';
import type { Distance } from '../kinds';
import { boxLines, plainVector } from '../outlines';

export const box = collider({
  kind: 'box',
  title: 'Box',
  help: 'A block, or a room that holds particles in.',
  icon: 'M4 8l8-4l8 4v8l-8 4l-8-4zM4 8l8 4l8-4M12 12v8',
  dials: { size: vector('Size', [2, 1, 2], 1000, 'm', 'Edge lengths along x, y and z.') },
  outline: ({ size }) => boxLines(plainVector(size) ?? [1, 1, 1]),
  build(dial) {
    const g = dial.graph;
    const half = dial.vector('size').scale(0.5);
    const distance = (p: Vec3): Distance => {
      const signs = p.parts.map((c) => c.lt(0).select(g.float(-1), g.float(1)));
      const q = p.parts.map((c, i) => c.abs().sub(half.parts[i]!.abs()));
      const [x, y, z] = q as [Expr, Expr, Expr];
      const out = new Vec3(x.max(0), y.max(0), z.max(0));
      const outside = out.length();
      const inside = x.max(y).max(z);
      const away = outside.gt(1e-7);
      const unit = out.unit();
      const onX = x.ge(y).and(x.ge(z));
      const onY = onX.not().and(y.ge(z));
      const onZ = onX.or(onY).not();
      const face = [onX, onY, onZ].map((on) => on.select(1, g.float(0)));
      const part = (i: number): Expr => away.select(unit.parts[i]!, face[i]!).mul(signs[i]!);
      return {
        distance: outside.add(inside.min(0)),
        normal: new Vec3(part(0), part(1), part(2)),
      };
    };
    return { distance };
  },
});
