import { cos, sin } from '@vast-swarm/kernel';
import { number, vector } from '../../language/dials';
import { falloffDials, falloffWeight } from './falloff';
import { carries, flowDials, flowEffect } from './flow';
import { force } from '../define';
import { circleLine, drawnSize } from '../outlines';

export const vortex = force({
  kind: 'vortex',
  title: 'Vortex',
  help: 'Turns particles about an axis, draws them in and lifts them.',
  icon: 'M12 3c6 0 9 4 9 8s-3 7-8 7s-7-3-7-6s3-5 6-5s4 2 4 4s-1 3-3 3',
  dials: {
    centre: vector('Centre', [0, 0, 0], 1000, 'm', 'A place on the axis.', { grasp: 'place' }),
    axis: vector('Axis', [0, 1, 0], 1, '', 'The direction it turns about, by the right hand.', {
      grasp: 'way',
    }),
    spin: number('Spin', 120, [-7200, 7200], 'Turning speed in the middle.', {
      unit: '°/s',
      varies: 'life',
    }),
    ...falloffDials,
    pull: number('Pull inward', 0, [-1000, 1000], 'Speed towards the axis; below 0 outward.', {
      unit: 'm/s',
      varies: 'life',
    }),
    lift: number('Lift', 0, [-1000, 1000], 'Speed along the axis.', {
      unit: 'm/s',
      varies: 'life',
    }),
    ...flowDials('carry'),
  },
  carries,
  outline: ({ radius }) => [circleLine(drawnSize(radius))],
  build(dial, { position, start, velocity, step }) {
    const axis = dial.vector('axis').unit();
    // An exact turn takes half of the particle's own way before it and half behind (Strang 1968); its
    // own turn is not to be in the place that it turns.
    const half = start.add(velocity.scale(step.mul(0.5)));
    const place = dial.choice('acts') === 'carry' ? half : position;
    const offset = place.sub(dial.vector('centre'));
    const arm = offset.sub(axis.scale(offset.dot(axis)));
    const distance = arm.length();
    const weight = falloffWeight(dial, distance);
    const rate = dial
      .number('spin')
      .mul(Math.PI / 180)
      .mul(weight);
    const tangent = axis.cross(arm);
    // The pull stops at the axis instead of overshooting it.
    const inward = dial
      .number('pull')
      .mul(weight)
      .min(distance.div(step.max(1e-6)));
    const draw = arm.scale(inward.div(distance.max(1e-6)).neg());
    const rest = draw.add(axis.scale(dial.number('lift').mul(weight)));
    // A turn by an exact angle keeps the radius, where a straight step along the tangent widens it.
    const angle = rate.mul(step);
    const turn = tangent.scale(sin(angle)).add(arm.scale(cos(angle).sub(1)));
    return flowEffect(dial, tangent.scale(rate).add(rest), step, turn.add(rest.scale(step)));
  },
});
