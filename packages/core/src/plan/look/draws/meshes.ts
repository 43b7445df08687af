import { meshDials } from '../../../catalogue/bodies/mesh';
import { sharedDials } from '../../../language/dialReader';
import { valuesOf } from '../../../language/dials';
import { cos, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import { doubledNormal, vertexNormals } from '../../../stock/places/meshParts';
import { boundsOf } from '../../../stock/points';
import { memo } from '../../../stock/memo';
import type { Mesh } from '../../../stock/types';
import { turner } from '../../../language/placement';
import { type Draw } from './draw';
import { DRAW_TABLES } from './tables';
import type { DrawContext } from './context';

/** Most triangles of one swarm's mesh copies, as the rasteriser has room for. */
export const MOST_TRIANGLES = 4_000_000;

/** The corners of a mesh, its longest side 1 and its middle at 0: x, y, z and the normal of each. */
export function cornersOf(mesh: Mesh, smooth: boolean, base: boolean): Float32Array {
  return memo(mesh, `corners.${String(smooth)}.${String(base)}`, () => {
    const { positions, triangles } = mesh;
    const [low, high] = boundsOf(positions);
    const size = Math.max(...high.map((h, i) => h - low[i]!)) || 1;
    const middle = high.map((h, i) => (base && i === 1 ? low[1]! : (h + low[i]!) / 2));
    const normals = smooth ? vertexNormals(mesh) : null;
    const out = new Float32Array(6 * triangles.length);
    for (let t = 0; t < triangles.length; t++) {
      const v = 3 * triangles[t]!;
      const face = doubledNormal(mesh, t - (t % 3));
      const length = Math.hypot(...face) || 1;
      for (let axis = 0; axis < 3; axis++) {
        out[6 * t + axis] = (positions[v + axis]! - middle[axis]!) / size;
        out[6 * t + 3 + axis] = normals ? normals[v + axis]! : face[axis]! / length;
      }
    }
    return out;
  });
}

const CUBE: Mesh = {
  type: 'mesh',
  positions: Float32Array.from(
    { length: 24 },
    (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1) - 0.5,
  ),
  triangles: Uint32Array.from([
    ...[0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4],
    ...[2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5],
  ]),
};

export function meshDraw(
  context: DrawContext,
): Pick<Draw & { shape: 'meshes' }, 'shape' | 'mesh' | 'triangles' | 'gloss' | 'cull'> | null {
  const { builder, view, see, body, capacity, copies, notices } = context;
  const { name } = context.swarm;
  const { scene } = builder;
  const values = valuesOf(meshDials, body.dials);
  const found = values.form === 'cube' ? CUBE : scene.stock(values.mesh);
  if (found?.type !== 'mesh') return null;
  const triangles = found.triangles.length / 3;
  const wanted = triangles * capacity * copies;
  if (wanted > MOST_TRIANGLES) {
    const count = (n: number): string => Math.floor(n).toLocaleString('en-GB');
    notices.push(
      `${name} would draw ${count(wanted)} triangles: ${count(triangles)} for each of ${count(capacity * copies)} particles. The most is ${count(MOST_TRIANGLES)}, so it is not drawn: use at most ${count(MOST_TRIANGLES / triangles)} particles, or a mesh of at most ${count(MOST_TRIANGLES / capacity / copies)} triangles.`,
    );
    return null;
  }
  const [smooth, base] = [values.smooth === 'smooth', values.pivot === 'base'];
  const corners = cornersOf(found, smooth && found !== CUBE, base);
  const block = builder.data.block(corners);

  const g = builder.graph;
  const [x, y, z] = axesOf(context);
  const dial = sharedDials(see.dial, meshDials);
  const axis = (v: Vec3, key: 'wide' | 'high' | 'deep'): Vec3 =>
    view.direction(see.turned(v)).scale(see.size.mul(dial.number(key)));
  const place = view.place(see.position);
  const covers = see.opacity.mul(view.fade(place.z));
  const seen = see.alive.and(covers.gt(1e-6));
  const opaque = see.dial.raw('mode') === 'opaque';
  const outputs: Expr[] = [
    ...[place, axis(x, 'wide'), axis(y, 'high'), axis(z, 'deep')].flatMap((v) => v.parts),
    ...see.colour.scale(opaque ? g.float(1) : covers).parts,
    seen.select(opaque ? g.float(1) : covers, g.float(0)),
  ];
  DRAW_TABLES.meshes.outputs.forEach((output, i) => g.store(output, outputs[i]!));
  return {
    shape: 'meshes',
    mesh: block,
    triangles,
    cull: opaque,
    gloss: (time) => scene.number(values.gloss, time),
  };
}

/** Unit vectors along the copy's own axes, world frame. */
function axesOf({ builder, see }: DrawContext): [Vec3, Vec3, Vec3] {
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
