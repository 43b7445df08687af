import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import { number } from '../../../language/dials';
import { emitter } from '../../define';
import { circleLine, drawnSize } from '../../outlines';

export const disc = emitter({
  kind: 'disc',
  title: 'Disc',
  help: 'Particles start on a flat disc, evenly by area.',
  icon: 'M12 7c5 0 9 2 9 5s-4 5-9 5s-9-2-9-5s4-5 9-5z',
  dials: {
    radius: number('Radius', 1, [0, 1000], 'From the middle to the edge.', { unit: 'm' }),
    hollow: number('Hollow', 0, [0, 1], 'The part of the radius left empty inside.'),
  },
  outline: ({ radius }) => [circleLine(drawnSize(radius))],
  build(dial) {
    const g = dial.graph;
    const inner = dial.number('hollow');
    const low = inner.mul(inner);
    // Even by area: r² is even between hollow² and 1.
    const square = low.add(g.float(1).sub(low).mul(dial.random('out')));
    const turn = dial.random('turn');
    const angle = turn.mul(2 * Math.PI);
    const out = new Vec3(cos(angle), g.float(0), sin(angle));
    const position = out.scale(square.sqrt().mul(dial.number('radius')));
    const up = new Vec3(g.float(0), g.float(1), g.float(0));
    const tangent = new Vec3(out.z.neg(), g.float(0), out.x);
    return { position, normal: up, tangent, surface: [turn, square.sqrt()] };
  },
});
