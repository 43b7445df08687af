import { number, stockDial } from '../../language/dials';
import { secondsOf } from '../../stock/sound/peaks';
import { beginsAt } from '../beginsAt';
import { sound } from '../define';

export const live = sound({
  kind: 'live',
  title: 'Live input',
  help: 'A microphone or a line in, recorded as a take while it drives the piece.',
  icon: 'M12 3a3 3 0 0 1 3 3v6a3 3 0 0 1-6 0V6a3 3 0 0 1 3-3zM6 11a6 6 0 0 0 12 0M12 17v4M9 21h6',
  dials: {
    take: stockDial('Take', ['sound'], 'The recording that counts: it stands in for what is live.'),
    start: beginsAt('Frame at which the take begins.'),
    gain: number('Gain', 0, [-60, 60], 'Louder or softer.', { unit: 'dB', varies: 'never' }),
  },
  strip: { start: 'start' },
  records: { take: 'take', start: 'start' },
  heard({ take, start, gain }, { rate, stock, live }) {
    const data = live ?? stock(take);
    if (data?.type !== 'sound') return null;
    return {
      sound: data,
      from: 0,
      fadeIn: 0,
      fadeOut: 0,
      repeats: false,
      start: live ? live.start : start / rate,
      // Nobody knows yet how long it will be.
      to: live ? Infinity : secondsOf(data),
      gain: 10 ** (gain / 20),
    };
  },
});
