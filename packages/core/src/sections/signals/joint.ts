import { choice, jointsDial, number, partDial } from '../../language/dials';
import { isThere, type Performing } from '../../stock/motion/performing';
import { signal } from '../define';
import { never, ranged, signalRange } from './range';

/** Seconds before and behind a moment between which speed is measured. */
const AROUND = 1 / 60;

type Measure = 'x' | 'y' | 'z' | 'speed' | 'apart';

export const joint = signal({
  kind: 'joint',
  title: 'Joint',
  help: "Where a performer's joint is, how fast it goes, or how far it is from another.",
  icon: 'M5 19a2 2 0 1 0 .01 0M19 5a2 2 0 1 0 .01 0M6.5 17.5L17.5 6.5M12 12h.01',
  dials: {
    performer: partDial('Performer', 'performers', 'Whose joint it is.'),
    joint: jointsDial('Joint', 'performer', 'The one that is measured.', { most: 1 }),
    measure: choice(
      'Measures',
      'y',
      { x: 'To the right', y: 'Height', z: 'To the front', speed: 'Speed', apart: 'From another' },
      'Where it is in metres, how fast it goes in metres a second, or how far it is from another joint.',
    ),
    other: jointsDial('Other joint', 'performer', 'From which the distance is taken.', {
      most: 1,
      when: { dial: 'measure', is: ['apart'] },
    }),
    from: number('From', 0, [-1000, 1000], 'What is measured at the lowest value.', {
      ...never,
      unit: 'm',
    }),
    to: number('To', 2, [-1000, 1000], 'What is measured at the highest value.', {
      ...never,
      unit: 'm',
    }),
    ...signalRange,
  },
  follow(dials, { performer }) {
    const performing = performer(dials.performer);
    const index = performing ? performing.joints.indexOf(dials.joint[0] ?? '') : -1;
    if (!performing || index < 0) return () => 0;
    const other = performing.joints.indexOf(dials.other[0] ?? '');
    const measured = measure(performing, dials.measure, index, other);
    const { from, to } = dials;
    const span = to - from;
    const into = ranged(dials);
    return (time) => {
      if (!isThere(performing, time)) return 0;
      const part = span === 0 ? 0 : (measured(time) - from) / span;
      return into(Math.min(1, Math.max(0, part)));
    };
  },
});

function measure(
  { at, leaps, live }: Performing,
  what: Measure,
  joint: number,
  other: number,
): (time: number) => number {
  const part = (places: Float32Array, of: number): [number, number, number] => [
    places[3 * of]!,
    places[3 * of + 1]!,
    places[3 * of + 2]!,
  ];
  const apart = (a: readonly number[], b: readonly number[]): number =>
    Math.hypot(...a.map((v, i) => v - b[i]!));
  switch (what) {
    case 'speed':
      return (time) => {
        // What is live is measured behind it: what comes is not known.
        let [from, to] = live ? [time - 2 * AROUND, time] : [time - AROUND, time + AROUND];
        // Over a leap nobody is fast.
        if (leaps(from, time)) from = time;
        if (leaps(time, to)) to = time;
        return to > from ? apart(part(at(from), joint), part(at(to), joint)) / (to - from) : 0;
      };
    case 'apart':
      return (time) => {
        const places = at(time);
        return other < 0 ? 0 : apart(part(places, joint), part(places, other));
      };
    default:
      return (time) => part(at(time), joint)['xyz'.indexOf(what)]!;
  }
}
