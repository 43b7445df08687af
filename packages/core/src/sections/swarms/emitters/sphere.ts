import { exp, log } from '@vast-swarm/kernel';
import { choice, number } from '../../../language/dials';
import { emitter } from '../../define';
import { ballLines, drawnSize } from '../../outlines';

export const sphere = emitter({
  kind: 'sphere',
  title: 'Sphere',
  help: 'Particles start on a sphere or inside it.',
  icon: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16zM4.5 12c3 2.6 12 2.6 15 0',
  dials: {
    radius: number('Radius', 1, [0, 1000], 'From the middle to the surface.', { unit: 'm' }),
    fill: choice(
      'From',
      'inside',
      { inside: 'The inside', surface: 'The surface' },
      'Evenly by volume, or evenly by area.',
    ),
    hollow: number('Hollow', 0, [0, 1], 'The part of the radius left empty inside.', {
      when: { dial: 'fill', is: ['inside'] },
    }),
  },
  outline: ({ radius }) => ballLines(drawnSize(radius)),
  build(dial) {
    const normal = dial.randomDirection('place');
    const radius = dial.number('radius');
    if (dial.choice('fill') === 'surface') {
      return { position: normal.scale(radius), normal };
    }
    // Even by volume: r³ is even between hollow³ and 1.
    const hollow = dial.number('hollow');
    const low = hollow.mul(hollow).mul(hollow);
    const cube = low.add(dial.graph.float(1).sub(low).mul(dial.random('depth')));
    const depth = exp(log(cube).mul(1 / 3));
    return { position: normal.scale(radius.mul(depth)), normal };
  },
});
