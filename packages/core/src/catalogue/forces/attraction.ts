import { pow, Vec3, type Expr } from '@vast-swarm/kernel';
import type { DialReader } from '../../plan/dialReader';
import { fieldOf } from '../../stock/field';
import type { ForceKind } from '../kinds';
import { choice, number, stockDial, vector } from '../dials';
import { fieldAt } from '../colliders/fieldAt';

const to = (...is: string[]) => ({ when: { dial: 'to', is } });

/** The way from a place to what attracts it. */
function wayTo(dial: DialReader, position: Vec3): Vec3 | null {
  const centre = dial.vector('centre');
  switch (dial.choice('to')) {
    case 'line': {
      const axis = dial.vector('axis').unit();
      const offset = position.sub(centre);
      return axis.scale(offset.dot(axis)).sub(offset);
    }
    case 'mesh': {
      const data = dial.stock('mesh');
      if (data?.type !== 'mesh' || data.triangles.length === 0) return null;
      const field = fieldOf(data, dial.plain('detail'));
      const { distance, normal } = fieldAt(dial, field, position.sub(centre));
      return normal.scale(distance.neg());
    }
    default:
      return centre.sub(position);
  }
}

export const attraction: ForceKind = {
  kind: 'attraction',
  title: 'Attraction',
  help: 'Draws particles to a point, a line or the surface of a mesh; below 0 it drives them away.',
  icon: 'M12 10a2 2 0 1 0 .01 0M12 2v5M12 22v-5M2 12h5M22 12h-5M10 5l2 2l2-2M10 19l2-2l2 2',
  dials: {
    to: choice(
      'To',
      'point',
      { point: 'A point', line: 'A line', mesh: "A mesh's surface" },
      'What it draws to.',
    ),
    centre: vector('Centre', [0, 0, 0], 1000, 'm', 'The point, a place on the line, or the mesh.'),
    axis: { ...vector('Axis', [0, 1, 0], 1, '', 'The way of the line.'), ...to('line') },
    mesh: { ...stockDial('Mesh', ['mesh'], 'The mesh.'), ...to('mesh') },
    detail: number('Detail', 48, [8, 128], 'Cells along the mesh.', { whole: true, ...to('mesh') }),
    strength: number('Strength', 4, [-1000, 1000], 'Acceleration in the middle.', {
      unit: 'm/s²',
      varies: 'life',
    }),
    radius: number('Radius', 2, [0.001, 1000], 'Where it has fallen to a half.', {
      unit: 'm',
      drag: 'log',
    }),
    falloff: number('Falloff', 2, [0, 8], 'How fast it falls outside; 0 is the same everywhere.'),
    arrive: number('Arrive within', 0.1, [0.001, 1000], 'Nearer than this it grows weaker.', {
      unit: 'm',
      drag: 'log',
    }),
  },
  measures: (dials) => dials.to === 'mesh',
  build(dial, { position }) {
    const way = wayTo(dial, position);
    if (!way) return {};
    const g = dial.graph;
    const distance = way.length();
    const far = distance.div(dial.number('radius')).max(1e-6);
    const weight: Expr = g.float(1).div(g.float(1).add(pow(far, dial.number('falloff'))));
    // Steady outside, and falling to nothing at the place itself, so that nothing shoots through.
    const steady = g.float(1).div(distance.max(dial.number('arrive')));
    return { push: way.scale(steady.mul(weight).mul(dial.number('strength'))) };
  },
};
