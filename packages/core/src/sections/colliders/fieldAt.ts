import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import type { Field } from '../../stock/places/distanceField';
import type { Distance } from '../kinds';

/** Reads a mesh's distance field, straight between its grid points; outside the grid by the way to it. */
export function fieldAt(dial: PartReader, field: Field, place: Vec3): Distance {
  const { builder, graph: g } = dial;
  const constant = (key: string, v: number): Expr => builder.constantOf(field, key, v);
  const whole = (key: string, v: number): Expr => builder.constantOf(field, key, v, 'i32');
  const inverse = constant('inverse', 1 / field.step);
  const local = place.parts.map((p, i) => {
    const last = constant(`last${String(i)}`, field.size[i]! - 1.001);
    const at = p.sub(constant(`origin${String(i)}`, field.origin[i]!)).mul(inverse);
    const inside = at.clamp(0, last);
    const low = inside.floor();
    return { low: low.toInt(), t: inside.sub(low), over: at.sub(inside) };
  });
  const [x, y, z] = local as [(typeof local)[0], (typeof local)[0], (typeof local)[0]];
  const nx = whole('nx', field.size[0]);
  const nxy = whole('nxy', field.size[0] * field.size[1]);
  const corner = z.low.mul(nxy).add(y.low.mul(nx)).add(x.low);
  const read = (i: number, j: number, k: number): Expr => {
    let at = corner;
    if (i) at = at.add(1);
    if (j) at = at.add(nx);
    if (k) at = at.add(nxy);
    return dial.block(field.values, at);
  };
  const cube = [0, 1].map((k) => [0, 1].map((j) => [0, 1].map((i) => read(i, j, k))));
  const c = (k: number, j: number, i: number): Expr => cube[k]![j]![i]!;
  const along = (k: number, j: number): Expr => mix(c(k, j, 0), c(k, j, 1), x.t);
  const face = (k: number): Expr => mix(along(k, 0), along(k, 1), y.t);
  const distance = mix(face(0), face(1), z.t);
  // The exact slope of what is read.
  const slope = (k: number, j: number): Expr => c(k, j, 1).sub(c(k, j, 0));
  const dx = mix(mix(slope(0, 0), slope(0, 1), y.t), mix(slope(1, 0), slope(1, 1), y.t), z.t);
  const dy = mix(along(0, 1).sub(along(0, 0)), along(1, 1).sub(along(1, 0)), z.t);
  const dz = face(1).sub(face(0));
  const over = new Vec3(x.over, y.over, z.over).scale(field.step);
  const outside = over.length();
  const far = outside.gt(1e-6);
  const slopes = new Vec3(dx, dy, dz);
  const flat = slopes.dot(slopes).lt(1e-12);
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  // The grid's box holds the mesh, so that from outside the way to it is the hypotenuse at least.
  const hypotenuse = distance.mul(distance).add(outside.mul(outside)).sqrt();
  return {
    distance: far.select(hypotenuse, distance),
    normal: Vec3.select(far, over.unit(), Vec3.select(flat, up, slopes.unit())),
  };
}
