import { choice, number, stockDial } from '../../language/dials';
import { secondsOf } from '../../stock/sound/peaks';
import { stretchOf } from '../../stock/stretch';
import { beginsAt } from '../beginsAt';
import { sound } from '../define';

const never = { varies: 'never' as const };

export const played = sound({
  kind: 'played',
  title: 'Sound',
  help: 'A sound from a file, heard while the piece plays, that signals can listen to.',
  icon: 'M4 10v4h4l5 4V6l-5 4zM16 9a4 4 0 0 1 0 6M18.5 6.5a8 8 0 0 1 0 11',
  dials: {
    sound: stockDial('Sound', ['sound'], 'From a file, or made by code.'),
    start: beginsAt('Frame at which it begins.'),
    gain: number('Gain', 0, [-60, 24], 'Louder or softer.', { unit: 'dB', ...never }),
    from: number('From', 0, [0, 36_000], 'What is left out at its beginning.', {
      unit: 's',
      ...never,
      group: 'Trim',
    }),
    to: number('To', 0, [0, 36_000], 'Where it ends; 0 is its own end.', {
      unit: 's',
      ...never,
      group: 'Trim',
    }),
    fadeIn: number('Fade in', 0, [0, 600], 'From silence.', { unit: 's', ...never, group: 'Trim' }),
    fadeOut: number('Fade out', 0, [0, 600], 'To silence.', { unit: 's', ...never, group: 'Trim' }),
    again: choice(
      'At its end',
      'rests',
      { rests: 'Rests', repeats: 'Begins again' },
      'Whether it goes round.',
      { group: 'Trim' },
    ),
  },
  strip: { start: 'start', trim: ['from', 'to'], fades: ['fadeIn', 'fadeOut'] },
  heard(dials, { rate, stock }) {
    const data = stock(dials.sound);
    if (data?.type !== 'sound') return null;
    const whole = secondsOf(data);
    const [from, to] = stretchOf(dials.from, dials.to, whole);
    const { fadeIn, fadeOut } = dials;
    return {
      sound: data,
      start: dials.start / rate,
      from,
      to,
      fadeIn,
      fadeOut,
      gain: 10 ** (dials.gain / 20),
      repeats: dials.again === 'repeats',
    };
  },
});
