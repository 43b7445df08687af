import { Vec3, type Expr } from '@vast-swarm/kernel';
import { fieldOf } from '../../stock/field';
import type { ColliderKind } from '../kinds';
import { number, stockDial, vector } from '../dials';
import { fieldAt } from './fieldAt';

/** Distances of simple shapes: I. Quilez, "Distance functions", 2008, with their exact slopes. */

export const plane: ColliderKind = {
  kind: 'plane',
  title: 'Plane',
  help: 'A floor, a wall or a ceiling without end; its face looks up its own y.',
  icon: 'M2 17l6-6h14l-6 6zM12 11V4M9 7l3-3l3 3',
  dials: {},
  build(dial) {
    const g = dial.graph;
    const up = new Vec3(g.float(0), g.float(1), g.float(0));
    return (p) => ({ distance: p.y, normal: up });
  },
};

export const box: ColliderKind = {
  kind: 'box',
  title: 'Box',
  help: 'A block, or a room that holds particles in.',
  icon: 'M4 8l8-4l8 4v8l-8 4l-8-4zM4 8l8 4l8-4M12 12v8',
  dials: { size: vector('Size', [2, 1, 2], 1000, 'm', 'Edge lengths along x, y and z.') },
  build(dial) {
    const g = dial.graph;
    const half = dial.vector('size').scale(0.5);
    return (p) => {
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
  },
};

/** Away from the nearest place of a kernel: its middle, or its middle line. */
function round(way: Vec3, radius: Expr): { distance: Expr; normal: Vec3 } {
  const length = way.length();
  const some = length.gt(1e-7);
  const g = length.graph;
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  return { distance: length.sub(radius), normal: Vec3.select(some, way.unit(), up) };
}

export const sphere: ColliderKind = {
  kind: 'sphere',
  title: 'Sphere',
  help: 'A ball, or a bowl that holds particles in.',
  icon: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16zM4.5 12c3 2.6 12 2.6 15 0',
  dials: {
    radius: number('Radius', 1, [0, 1000], 'From the middle to the surface.', { unit: 'm' }),
  },
  build(dial) {
    const radius = dial.number('radius');
    return (p) => round(p, radius);
  },
};

export const capsule: ColliderKind = {
  kind: 'capsule',
  title: 'Capsule',
  help: 'A post or a rail with round ends.',
  icon: 'M8 8a4 4 0 0 1 8 0v8a4 4 0 0 1-8 0z',
  dials: {
    from: vector('From', [0, -0.5, 0], 1000, 'm', 'One end of its middle line.'),
    to: vector('To', [0, 0.5, 0], 1000, 'm', 'The other end.'),
    radius: number('Radius', 0.3, [0, 1000], 'From the line to the surface.', { unit: 'm' }),
  },
  build(dial) {
    const [a, b] = [dial.vector('from'), dial.vector('to')];
    const way = b.sub(a);
    const square = way.dot(way).max(1e-12);
    const radius = dial.number('radius');
    return (p) => {
      const from = p.sub(a);
      const t = from.dot(way).div(square).clamp(0, 1);
      return round(from.sub(way.scale(t)), radius);
    };
  },
};

export const mesh: ColliderKind = {
  kind: 'mesh',
  title: 'Mesh',
  help: 'Any mesh: closed ones have an inside, open ones are sheets.',
  icon: 'M12 3l8 5v8l-8 5l-8-5V8zM4 8l8 5l8-5M12 13v8',
  dials: {
    mesh: stockDial('Mesh', ['mesh'], 'From a file, or one of those made by code.'),
    size: number('Size', 1, [0.0001, 10_000], 'Scale of the mesh.', { drag: 'log' }),
    detail: number('Detail', 64, [8, 160], 'Cells along its longest side.', { whole: true }),
    thickness: number('Thickness', 0.04, [0, 10], 'Of a sheet that is open.', { unit: 'm' }),
  },
  measures: () => true,
  build(dial) {
    const data = dial.stock('mesh');
    if (data?.type !== 'mesh' || data.triangles.length === 0) return null;
    const field = fieldOf(data, dial.plain('detail'));
    const g = dial.graph;
    const size = dial.number('size');
    // Thinner than the grid can tell, a sheet would have holes.
    const half = dial.number('thickness').mul(0.5).max(size.mul(field.step));
    return (p) => {
      const { distance, normal } = fieldAt(dial, field, p.scale(g.float(1).div(size)));
      const scaled = distance.mul(size);
      return { distance: field.closed ? scaled : scaled.sub(half), normal };
    };
  },
};
