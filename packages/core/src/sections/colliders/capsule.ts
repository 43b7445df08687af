import { number, vector } from '../../language/dials';
import { collider } from '../define';
import { plainVector } from '../outlines';
import { roundLine } from './round';

export const capsule = collider({
  kind: 'capsule',
  title: 'Capsule',
  help: 'A post or a rail with round ends.',
  icon: 'M8 8a4 4 0 0 1 8 0v8a4 4 0 0 1-8 0z',
  dials: {
    from: vector('From', [0, -0.5, 0], 1000, 'm', 'One end of its middle line.', {
      grasp: 'ownPlace',
    }),
    to: vector('To', [0, 0.5, 0], 1000, 'm', 'The other end.', { grasp: 'ownPlace' }),
    radius: number('Radius', 0.3, [0, 1000], 'From the line to the surface.', { unit: 'm' }),
  },
  outline: ({ from, to }) => [[plainVector(from) ?? [0, 0, 0], plainVector(to) ?? [0, 0, 0]]],
  build(dial) {
    const [a, b] = [dial.vector('from'), dial.vector('to')];
    const radius = dial.number('radius');
    return { distance: (p) => roundLine(p, a, b, radius) };
  },
});
