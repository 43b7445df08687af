import { Vec3 } from '@vast-swarm/kernel';
import { number, pictureDial } from '../../../language/dials';
import { seenMotion } from '../../forces/seenMotion';
import { launch } from '../../define';

const never = { varies: 'never' as const };

export const byClip = launch({
  kind: 'byClip',
  title: 'By a clip’s motion',
  help: 'As fast as what is seen in a clip, along and around the emitter, moves there.',
  icon: 'M3 5h18v14H3zM6 12h5M9 9l3 3l-3 3M14 12h4',
  dials: {
    clip: pictureDial('Clip', 'A clip or made map of the piece.'),
    gain: number('Motion gain', 1, [-100, 100], 'Multiplies the motion; 1 is as it is seen.', {
      varies: 'birth',
    }),
    width: number('Clip width', 4, [0.0001, 10_000], 'How wide the clip is there.', {
      unit: 'm',
      drag: 'log',
    }),
    detail: number('Motion detail', 160, [16, 480], 'Cells along its longer side.', {
      unit: 'cells',
      whole: true,
      group: 'Motion',
    }),
    smooth: number(
      'Motion smoothing',
      0.01,
      [0, 0.25],
      'Part of the picture over which it is smoothed.',
      {
        ...never,
        group: 'Motion',
      },
    ),
  },
  build(dial, { surface }) {
    const moving = dial.picture('clip');
    const zero = dial.graph.float(0);
    if (moving?.type !== 'moving' || !surface) return new Vec3(zero, zero, zero);
    const options = { detail: dial.plain('detail'), smooth: dial.plain('smooth'), steady: 2 };
    const [right, up] = seenMotion(dial, moving, options, ...surface);
    // From widths and heights a frame to metres a second.
    const speed = dial.number('width').mul(dial.number('gain')).mul(dial.rate);
    const aspect = moving.height / moving.width;
    return new Vec3(right.mul(speed), up.mul(speed).mul(aspect), zero);
  },
});
