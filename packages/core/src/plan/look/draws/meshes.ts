import { meshDials } from '../../../sections/swarms/bodies/mesh';
import { sharedDials } from '../../../language/dialReader';
import { valuesOf } from '../../../language/dials';
import { cos, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import type { Mesh } from '../../../stock/types';
import { turner } from '../../../language/placement';
import { NEAREST, type View } from '../../../language/view';
import { type Draw } from './draw';
import { formsOf, type Forms } from './forms';
import { DRAW_TABLES } from './tables';
import type { DrawContext } from './context';

/** Most triangles of mesh copies that are seen through, since all of them have to be sorted. */
const MOST_TRIANGLES = 4_000_000;

const CUBE: Mesh = {
  type: 'mesh',
  positions: Float32Array.from(
    { length: 24 },
    (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1) - 0.5,
  ),
  triangles: Uint32Array.from([
    0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3,
    7, 1, 7, 5,
  ]),
};

export function meshDraw(
  context: DrawContext,
): Pick<
  Draw & { shape: 'meshes' },
  'shape' | 'mesh' | 'faces' | 'levels' | 'gloss' | 'cull'
> | null {
  const { builder, view, see, body, capacity, copies, notices } = context;
  const { name } = context.swarm;
  const { scene } = builder;
  const values = valuesOf(meshDials, body.dials);
  const found = values.form === 'cube' ? CUBE : scene.stock(values.mesh);
  if (found?.type !== 'mesh') return null;
  const opaque = see.dial.raw('mode') === 'opaque';
  const triangles = found.triangles.length / 3;
  const wanted = triangles * capacity * copies;
  if (!opaque && wanted > MOST_TRIANGLES) {
    const count = (n: number): string => Math.floor(n).toLocaleString('en-GB');
    notices.push(
      `${name} would draw ${count(wanted)} triangles that are seen through: ${count(triangles)} for each of ${count(capacity * copies)} particles. The most is ${count(MOST_TRIANGLES)}, so it is not drawn: make it opaque, use at most ${count(MOST_TRIANGLES / triangles)} particles, or a mesh of at most ${count(MOST_TRIANGLES / capacity / copies)} triangles.`,
    );
    return null;
  }
  const [smooth, base] = [values.smooth === 'smooth', values.pivot === 'base'];
  const forms = formsOf(found, smooth && found !== CUBE, base);

  const g = builder.graph;
  const [x, y, z] = axesOf(builder, see);
  const dial = sharedDials(see.dial, meshDials);
  const axis = (v: Vec3, key: 'wide' | 'high' | 'deep'): Vec3 =>
    view.direction(see.turned(v)).scale(see.size.mul(dial.number(key)));
  const place = view.place(see.position);
  const covers = see.opacity.mul(view.fade(place.z));
  const seen = see.alive.and(covers.gt(1e-6));
  const axes = [axis(x, 'wide'), axis(y, 'high'), axis(z, 'deep')];
  const outputs: Expr[] = [
    ...[place, ...axes].flatMap((v) => v.parts),
    ...context.light(see.colour, opaque ? g.float(1) : covers).parts,
    seen.select(opaque ? g.float(1) : covers, g.float(0)),
    ...boundsOnScreen(view, place, axes, forms, seen),
  ];
  DRAW_TABLES.meshes.outputs.forEach((output, i) => g.store(output, outputs[i]!));
  return {
    shape: 'meshes',
    mesh: builder.data.block(forms.corners),
    faces: builder.data.block(forms.faces),
    levels: forms.levels,
    cull: opaque,
    gloss: (time) => scene.number(values.gloss, time),
  };
}

/** Half the bounds, in pixels, of what reaches up to the eye: all of any frame. */
const EVERYWHERE = 1e6;

/** Middle and half size of a copy's bounds in pixels, 0 where it is not seen; and how near it comes. */
function boundsOnScreen(
  view: View,
  place: Vec3,
  axes: readonly Vec3[],
  { middle, half }: Forms,
  seen: Expr,
): Expr[] {
  const g = place.x.graph;
  const zero = g.float(0);
  const at = axes.reduce((sum, axis, i) => sum.add(axis.scale(g.float(middle[i]!))), place);
  const reach = (key: 'x' | 'y' | 'z'): Expr =>
    axes.reduce((sum, axis, i) => sum.add(axis[key].abs().mul(half[i]!)), zero);
  const deep = reach('z');
  const [front, back] = [at.z.sub(deep), at.z.add(deep)];
  const clear = front.gt(NEAREST);
  const { zoom } = view.spot(new Vec3(at.x, at.y, g.float(1)));
  const centre = view.spot(new Vec3(zero, zero, g.float(1)));
  // What is on one side of the axis is seen farthest from it where it is nearest, and the other way round.
  const seenAt = (v: Expr, most: boolean): Expr => {
    if (!view.perspective) return v.mul(zoom);
    const [a, b] = most ? [front, back] : [back, front];
    return v.mul(zoom).div(v.gt(0).select(a, b));
  };
  const side = (key: 'x' | 'y'): [Expr, Expr] => {
    const wide = reach(key);
    const low = seenAt(at[key].sub(wide), false);
    const high = seenAt(at[key].add(wide), true);
    return [low.add(high).mul(0.5), high.sub(low).mul(0.5)];
  };
  const [[x, ex], [y, ey]] = [side('x'), side('y')];
  const shown = seen.and(back.gt(NEAREST));
  const extent = (e: Expr): Expr =>
    shown.select(clear.select(e.max(1e-3), g.float(EVERYWHERE)), zero);
  return [
    clear.select(centre.x.add(x), centre.x),
    clear.select(centre.y.sub(y), centre.y),
    extent(ex),
    extent(ey),
    front.max(0),
  ];
}

/** Unit vectors along the copy's own axes, world frame. */
export function axesOf(
  builder: DrawContext['builder'],
  see: Pick<DrawContext['see'], 'dial' | 'velocity' | 'age'>,
): [Vec3, Vec3, Vec3] {
  const g = builder.graph;
  const dial = sharedDials(see.dial, meshDials);
  const facing = dial.choice('facing');
  const unit = (x: number, y: number, z: number): Vec3 =>
    new Vec3(g.float(x), g.float(y), g.float(z));
  let axes: [Vec3, Vec3, Vec3];
  if (facing === 'fixed') {
    const turn = turner(dial, 'stand');
    axes = [turn(unit(1, 0, 0), false), turn(unit(0, 1, 0), false), turn(unit(0, 0, 1), false)];
  } else {
    const way = facing === 'random' ? dial.randomDirection('way') : see.velocity();
    const up = Vec3.select(way.length().gt(1e-6), way, unit(0, 1, 0)).unit();
    const steep = up.y.abs().gt(0.99);
    const aside = Vec3.select(steep, unit(1, 0, 0), unit(0, 1, 0))
      .cross(up)
      .unit();
    axes = [aside, up, aside.cross(up)];
  }
  const angle = dial
    .number('turn')
    .add(dial.number('spin').mul(see.age))
    .mul(Math.PI / 180);
  const about = dial.choice('axis') === 'random' ? dial.randomDirection('axis') : axes[1];
  return axes.map((v) => turnedAbout(v, about, angle)) as typeof axes;
}

/** O. Rodrigues' formula (1840). */
function turnedAbout(v: Vec3, axis: Vec3, angle: Expr): Vec3 {
  const [c, s] = [cos(angle), sin(angle)];
  const along = axis.scale(axis.dot(v).mul(c.neg().add(1)));
  return v.scale(c).add(axis.cross(v).scale(s)).add(along);
}
