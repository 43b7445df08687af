import type { Vec3 } from '@vast-swarm/kernel';
import type { DialReader } from '../../language/dialReader';
import { fieldOf } from '../../stock/places/distanceField';
import { choice, jointsDial, number, partDial, stockDial, vector } from '../../language/dials';
import { fieldAt } from '../colliders/fieldAt';
import { wayToJoints } from '../../language/jointTrack';
import { falloffDials, falloffWeight } from './falloff';
import { force } from '../define';
import { circleLine, drawnSize } from '../outlines';

const when = (...is: string[]) => ({ when: { dial: 'to', is } });

const dials = {
  to: choice(
    'To',
    'point',
    { point: 'A point', line: 'A line', mesh: "A mesh's surface", joints: 'Joints' },
    'What it draws to.',
  ),
  centre: vector('Centre', [0, 0, 0], 1000, 'm', 'The point, a place on the line, or the mesh.', {
    grasp: 'place',
  }),
  axis: {
    ...vector('Axis', [0, 1, 0], 1, '', 'The way of the line.', { grasp: 'way' }),
    ...when('line'),
  },
  mesh: { ...stockDial('Mesh', ['mesh'], 'The mesh.'), ...when('mesh') },
  detail: number('Detail', 48, [8, 128], 'Cells along the mesh.', {
    whole: true,
    ...when('mesh'),
  }),
  performer: {
    ...partDial(
      'Performer',
      'performers',
      'Whose joints they are; each particle goes to the nearest.',
    ),
    ...when('joints'),
  },
  joints: jointsDial('Which joints', 'performer', 'Those that draw; none is all.', when('joints')),
  strength: number('Strength', 4, [-1000, 1000], 'Acceleration in the middle.', {
    unit: 'm/s²',
    varies: 'life',
  }),
  ...falloffDials,
  arrive: number('Arrive within', 0.1, [0.001, 1000], 'Nearer than this it grows weaker.', {
    unit: 'm',
    drag: 'log',
  }),
};

/** The way from a place to what attracts it. */
function wayTo(dial: DialReader<typeof dials>, position: Vec3): Vec3 | null {
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
    case 'joints': {
      const performing = dial.performer('performer');
      return performing ? wayToJoints(dial, performing, dial.raw('joints'), position) : null;
    }
    default:
      return centre.sub(position);
  }
}

export const attraction = force({
  kind: 'attraction',
  title: 'Attraction',
  help: "Draws particles to a point, a line, the surface of a mesh or a performer's joints; below 0 it drives them away.",
  icon: 'M12 10a2 2 0 1 0 .01 0M12 2v5M12 22v-5M2 12h5M22 12h-5M10 5l2 2l2-2M10 19l2-2l2 2',
  dials,
  measures: (values) => (values.to === 'mesh' ? values : null),
  outline: ({ radius }) => [circleLine(drawnSize(radius))],
  build(dial, { position }) {
    const way = wayTo(dial, position);
    if (!way) return {};
    const g = dial.graph;
    const distance = way.length();
    const weight = falloffWeight(dial, distance);
    // Steady outside, and falling to nothing at the place itself, so that nothing shoots through.
    const steady = g.float(1).div(distance.max(dial.number('arrive')));
    return { push: way.scale(steady.mul(weight).mul(dial.number('strength'))) };
  },
});
