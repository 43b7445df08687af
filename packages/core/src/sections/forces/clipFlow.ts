import { Vec3 } from '@vast-swarm/kernel';
import { number, pictureDial } from '../../language/dials';
import { force } from '../define';
import { drawnSize, frontLine } from '../outlines';
import { carries, flowDials, flowEffect } from './flow';
import { planeDials, planeOf, planePlace } from './plane';
import { seenMotion } from './seenMotion';

const never = { varies: 'never' as const };

export const clipFlow = force({
  kind: 'clipFlow',
  title: 'Clip flow',
  help: 'The motion that is seen in a clip carries or pushes what is on its plane.',
  icon: 'M3 5h18v14H3zM7 9l3 3l-3 3M12 9l3 3l-3 3M17 10v4',
  dials: {
    clip: pictureDial('Clip', 'A clip or made map of the piece.'),
    gain: number('Gain', 1, [-100, 100], 'Multiplies the motion; 1 is as it is seen.', {
      varies: 'life',
    }),
    detail: number(
      'Detail',
      160,
      [16, 480],
      'Cells along its longer side in which motion is found.',
      {
        unit: 'cells',
        whole: true,
        group: 'Motion',
      },
    ),
    smooth: number('Smooth', 0.01, [0, 0.25], 'Part of the picture over which it is smoothed.', {
      ...never,
      group: 'Motion',
    }),
    steady: number('Steady', 2, [1, 12], 'Pictures that it is the mean of.', {
      whole: true,
      group: 'Motion',
    }),
    least: number('Least', 0, [0, 100], 'What is slower does not count.', {
      unit: 'm/s',
      group: 'Motion',
    }),
    ...planeDials,
    ...flowDials('carry'),
  },
  carries,
  plane: planeOf,
  sees: ({ clip, detail, smooth, steady }) => ({
    picture: clip,
    options: { detail, smooth, steady },
  }),
  outline: ({ width, height }) => [frontLine(drawnSize(width), drawnSize(height))],
  build(dial, { position, step }) {
    const moving = dial.picture('clip');
    // A picture that stands still moves nothing.
    if (moving?.type !== 'moving') return {};
    const options = {
      detail: dial.plain('detail'),
      smooth: dial.plain('smooth'),
      steady: dial.plain('steady'),
    };
    const { u, v, across, up, inside } = planePlace(dial, position);
    const [right, upward] = seenMotion(dial, moving, options, u, v);
    const { rate } = dial;
    const x = right.mul(dial.number('width')).mul(rate);
    const y = upward.mul(dial.number('height')).mul(rate);
    const enough = x.mul(x).add(y.mul(y)).sqrt().ge(dial.number('least'));
    const weight = enough.select(dial.number('gain').mul(inside), dial.graph.float(0));
    const part = (axis: 'x' | 'y' | 'z') => across[axis].mul(x).add(up[axis].mul(y)).mul(weight);
    return flowEffect(dial, new Vec3(part('x'), part('y'), part('z')), step);
  },
});
