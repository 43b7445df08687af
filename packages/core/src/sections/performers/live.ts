import { number, stockDial } from '../../language/dials';
import { bonesOf } from '../../stock/motion/bones';
import { beginsAtSecond, firstPose } from '../../stock/motion/liveMotion';
import { extentOf, posesAt } from '../../stock/motion/performing';
import { memo, serialOf } from '../../stock/memo';
import { beginsAt } from '../beginsAt';
import { performer } from '../define';
import { placed, placeDials, thickened, who, whoOf } from './place';

export const live = performer({
  kind: 'live',
  title: 'Live joints',
  help: 'Performers whose joints arrive from outside, recorded as a take while they drive the piece.',
  icon: 'M10 3.5a1.6 1.6 0 1 0 .01 0M10 7v6M5 9l5-1l5 1M10 13l-3 7M10 13l3 7M18 3a5 5 0 0 1 0 7M20.5 1a8 8 0 0 1 0 11',
  dials: {
    take: stockDial(
      'Take',
      ['motion'],
      'The recording that counts: it stands in for what is live.',
    ),
    who,
    start: beginsAt('Frame at which the take begins.'),
    scale: number('Scale', 1, [0.0001, 1000], 'Metres for a unit of what comes in.', {
      varies: 'never',
      drag: 'log',
      group: 'Place',
    }),
    ...placeDials,
  },
  plays: 'take',
  strip: { start: 'start' },
  records: { take: 'take', start: 'start' },
  performing(dials, { rate, stock, live: input }) {
    const motion = input ?? stock(dials.take);
    if (motion?.type !== 'motion') return undefined;
    const cast = whoOf(motion, dials.who);
    if (!cast) return undefined;
    // How they move later is not known while they are recorded: they are measured as they stand at first.
    const first = memo(motion, 'first', () => firstPose(motion));
    const { scale, up } = dials;
    const { tall } = extentOf(first, up);
    const start = input?.start ?? dials.start;
    const begins = beginsAtSecond(start, rate);
    const place = placed(dials, scale, 0);
    return {
      name: `take.${String(serialOf(motion))}.${JSON.stringify([rate, dials])}`,
      joints: cast.joints,
      bones: thickened(bonesOf(first, cast.who, scale, tall * scale), cast.joints, dials),
      at: (time) => place(posesAt(motion, cast.people, time - begins)),
      leaps: () => false,
      // In the frames before the first of the take nobody is there, as when it was recorded.
      live: {
        from: (start + 0.5) / rate,
        known: (frame) => input?.known(frame) ?? frame,
      },
    };
  },
});
