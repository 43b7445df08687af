import { Vec3 } from '@vast-swarm/kernel';
import { number, partDial } from '../../language/dials';
import { MediumReader } from '../../language/mediumSample';
import { force } from '../define';
import { carries, flowDials, flowEffect } from './flow';

export const ride = force({
  kind: 'ride',
  title: 'Ride',
  help: 'A medium carries particles along, or pushes them up to its own speed.',
  icon: 'M3 15c3-3 6 3 9 0s6 3 9 0M8 10a2 2 0 1 0 0-4a2 2 0 1 0 0 4M15 9l4-2l-2 4',
  dials: {
    medium: partDial('Medium', 'media', 'What carries.'),
    gain: number('Gain', 1, [-100, 100], 'Multiplies its speed; 1 is as it flows.', {
      varies: 'life',
    }),
    ...flowDials('carry'),
  },
  carries,
  rides: ({ medium }) => medium,
  build(dial, { position, start, step }) {
    const space = dial.medium('medium');
    if (!space) return {};
    const medium = new MediumReader(dial.builder, space);
    const gain = dial.number('gain');
    const flowAt = (place: Vec3): Vec3 => {
      const spot = medium.plane.spotOf(place);
      const flow = medium.plane.world(medium.velocity(spot));
      const share = spot.near.select(gain.div(spot.scale.max(1e-6)), 0);
      return flow.scale(share);
    };
    if (dial.choice('acts') === 'push') return flowEffect(dial, flowAt(position), step);
    // Runge and Kutta's fourth order, or rings would grow: E. Hairer, S. Nørsett, G. Wanner, "Solving Ordinary
    // Differential Equations I", 1993, II.1.
    const half = step.mul(0.5);
    const one = flowAt(start);
    const two = flowAt(start.add(one.scale(half)));
    const three = flowAt(start.add(two.scale(half)));
    const four = flowAt(start.add(three.scale(step)));
    const way = one
      .add(two.add(three).scale(2))
      .add(four)
      .scale(step.mul(1 / 6));
    return flowEffect(dial, one, step, way);
  },
});
