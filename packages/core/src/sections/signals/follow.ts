import { choice, number, partDial } from '../../language/dials';
import { signal } from '../define';
import { smoothed } from './inSteps';
import { never } from './range';

type Limit = 'none' | 'clamp' | 'wrap' | 'fold';

/** Takes a value into a range. */
const LIMITS: Record<Limit, (v: number, low: number, span: number) => number> = {
  none: (v) => v,
  clamp: (v, low, span) => Math.min(low + span, Math.max(low, v)),
  wrap: (v, low, span) => low + (span > 0 ? v - low - span * Math.floor((v - low) / span) : 0),
  fold(v, low, span) {
    if (span <= 0) return low;
    const turns = (v - low) / (2 * span);
    const into = 2 * (turns - Math.floor(turns));
    return low + span * (into <= 1 ? into : 2 - into);
  },
};

export const follow = signal({
  kind: 'follow',
  title: 'Follow',
  help: 'Another signal: later, slower, larger, or kept within limits.',
  icon: 'M3 17c3-9 6-9 9-3M12 17c3-9 6-9 9-3M5 7h6M9 5l2 2l-2 2',
  dials: {
    signal: partDial('Follows', 'signals', 'The signal that it follows.'),
    delay: number('Delay', 0, [0, 60], 'How much later.', { unit: 's', ...never }),
    rise: number('Rise', 0, [0, 60], 'How slowly it goes up; after so long 63 % are done.', {
      unit: 's',
      ...never,
    }),
    fall: number('Fall', 0, [0, 60], 'How slowly it goes down.', { unit: 's', ...never }),
    gain: number('Times', 1, [-1000, 1000], 'Multiplies it.', never),
    offset: number('Plus', 0, [-1e6, 1e6], 'Added to it.', never),
    limit: choice(
      'Limits',
      'none',
      { none: 'None', clamp: 'Stops there', wrap: 'Begins again', fold: 'Turns back' },
      'What happens beyond its lowest and highest.',
    ),
    low: number('Lowest', 0, [-1e6, 1e6], 'The lower limit.', {
      ...never,
      when: { dial: 'limit', not: 'none' },
    }),
    high: number('Highest', 1, [-1e6, 1e6], 'The upper limit.', {
      ...never,
      when: { dial: 'limit', not: 'none' },
    }),
  },
  follow(dials, context) {
    const { delay, rise, fall, gain, offset, low, high } = dials;
    const input = context.signal(dials.signal);
    const late = delay > 0 ? (time: number) => input(time - delay) : input;
    const smooth = smoothed(context, late, rise, fall);
    const limit = LIMITS[dials.limit];
    return (time) => limit(smooth(time) * gain + offset, low, high - low);
  },
});
