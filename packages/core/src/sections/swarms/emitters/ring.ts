import { cos, sin } from '@vast-swarm/kernel';
import { rangeOf } from '../../../feeds/feeds';
import { choice, number, vector } from '../../../language/dials';
import { frameAround } from './frame';
import { evenPart } from './order';
import { emitter } from '../../define';
import { circleLine, drawnSize } from '../../outlines';

export const ring = emitter({
  kind: 'ring',
  title: 'Ring',
  help: 'Particles start on a circle, evenly or at random.',
  icon: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16z',
  dials: {
    axis: vector('Axis', [0, 1, 0], 1, '', 'The direction the ring turns about.', { grasp: 'way' }),
    radius: number('Radius', 1, [0, 1000], 'From the middle to the ring.', {
      unit: 'm',
      varies: 'birth',
    }),
    width: number('Width', 0, [0, 1000], 'How thick the ring is, at random.', { unit: 'm' }),
    placing: choice(
      'Placing',
      'random',
      { random: 'At random', even: 'Evenly' },
      'Evenly puts each birth one place further round.',
    ),
    places: number('Places', 60, [1, 100000], 'Places round the ring when placed evenly.', {
      whole: true,
      when: { dial: 'placing', is: ['even'] },
    }),
    arc: number('Arc', 360, [0, 360], 'How much of the ring there is.', { unit: '°' }),
  },
  places: ({ placing, places, radius, arc }) =>
    placing === 'even'
      ? {
          count: places,
          spacing: () => (rangeOf(radius)[1] * rangeOf(arc)[1] * Math.PI) / 180 / places,
          coloured: false,
        }
      : null,
  outline: ({ radius }) => [circleLine(drawnSize(radius))],
  build(dial) {
    const turn =
      dial.choice('placing') === 'even'
        ? evenPart(dial, dial.plain('places'))
        : dial.random('turn');
    const angle = turn.mul(dial.number('arc')).mul(Math.PI / 180);
    const axis = dial.vector('axis').unit();
    const { u, v } = frameAround(axis);
    const outward = u.scale(cos(angle)).add(v.scale(sin(angle)));
    const across = dial.random('width');
    const off = across.sub(0.5).mul(dial.number('width'));
    const lift = dial.random('lift').sub(0.5).mul(dial.number('width'));
    const place = outward.scale(dial.number('radius').add(off)).add(axis.scale(lift));
    const surface = [turn, across] as const;
    return { position: place, normal: outward, tangent: axis.cross(outward), surface };
  },
});
