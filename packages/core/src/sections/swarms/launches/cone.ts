import { cos, sin } from '@vast-swarm/kernel';
import { number, vector } from '../../../language/dials';
import { frameAround } from '../emitters/frame';
import { launch } from '../../define';
import { speed } from './speed';

export const cone = launch({
  kind: 'cone',
  title: 'Cone',
  help: 'One direction, within a cone of some degrees.',
  icon: 'M12 21L5 5M12 21l7-16M5 5c3 2.5 11 2.5 14 0',
  dials: {
    speed: speed(),
    direction: vector('Direction', [0, 1, 0], 1, '', 'The middle of the cone.'),
    angle: number('Angle', 20, [0, 180], 'From the middle of the cone to its edge.', {
      unit: '°',
    }),
  },
  build(dial) {
    const g = dial.graph;
    const axis = dial.vector('direction').unit();
    const { u, v } = frameAround(axis);
    // Even by solid angle: the cosine is even between that of the edge and 1.
    const edge = cos(dial.number('angle').mul(Math.PI / 180));
    const c = edge.add(g.float(1).sub(edge).mul(dial.random('cone')));
    const s = g.float(1).sub(c.mul(c)).max(0).sqrt();
    const turn = dial.random('turn').mul(2 * Math.PI);
    const side = u.scale(cos(turn)).add(v.scale(sin(turn)));
    return axis.scale(c).add(side.scale(s)).scale(dial.number('speed'));
  },
});
