import { choice, number, partDial } from '../../language/dials';
import { signal } from '../define';
import type { Follow } from '../kinds';
import { STEP, Steps } from './inSteps';
import { never, ranged, signalRange } from './range';

const group = 'Envelope';

/** The last strike, as it is known at a step. */
interface Strike {
  /** When it fired, and what the envelope was then. */
  since: number;
  from: number;
  /** When what is watched fell under the threshold again. */
  until: number;
  input: number;
}

export interface Envelope {
  attack: number;
  hold: number;
  decay: number;
  sustain: number;
  release: number;
}

/**
 * An envelope at a time: straight up to 1, held, straight down to what it sustains while what fired it lasts,
 * and straight down to 0. What has begun is brought to its sustained part, however short the strike was.
 */
export function envelopeAt(
  { attack, hold, decay, sustain, release }: Envelope,
  { since, from, until }: Pick<Strike, 'since' | 'from' | 'until'>,
  time: number,
): number {
  const d = time - since;
  if (!(d >= 0)) return 0;
  if (d < attack) return from + (1 - from) * (d / attack);
  if (d < attack + hold) return 1;
  const into = d - attack - hold;
  if (into < decay) return 1 + (sustain - 1) * (into / decay);
  const released = time - Math.max(since + attack + hold + decay, until);
  if (released <= 0) return sustain;
  return released < release ? sustain * (1 - released / release) : 0;
}

/** When, between two times, a number crosses a threshold: by halves, to some nanoseconds. */
function crossing(
  at: (time: number) => number,
  threshold: number,
  from: number,
  to: number,
): number {
  const was = at(from) >= threshold;
  let [low, high] = [from, to];
  for (let i = 0; i < 20; i++) {
    const middle = (low + high) / 2;
    if (at(middle) >= threshold === was) low = middle;
    else high = middle;
  }
  return high;
}

export const strike = signal({
  kind: 'strike',
  title: 'Strike',
  help: 'Fires an envelope when another signal rises over a threshold.',
  icon: 'M3 19l4-12l3 5h5l5 7M7 3v2M3.5 5l1 1.500M10.500 5l-1 1.500',
  dials: {
    signal: partDial('Watches', 'signals', 'The signal that fires it.'),
    threshold: number(
      'Threshold',
      0.5,
      [-1e6, 1e6],
      'It fires when the signal rises over it.',
      never,
    ),
    delay: number('Delay', 0, [0, 60], 'How much later it fires.', { unit: 's', ...never }),
    least: number('At least between', 0.1, [0, 60], 'Sooner after the last it does not fire.', {
      unit: 's',
      ...never,
    }),
    fires: choice(
      'While it runs',
      'again',
      { again: 'Fires again', once: 'Does not' },
      'Whether it can fire before its envelope is over.',
    ),
    attack: number('Attack', 0.02, [0, 60], 'Up to its highest.', { unit: 's', group, ...never }),
    hold: number('Hold', 0, [0, 60], 'At its highest.', { unit: 's', group, ...never }),
    decay: number('Decay', 0.3, [0, 60], 'Down to what it sustains.', {
      unit: 's',
      group,
      ...never,
    }),
    sustain: number('Sustain', 0, [0, 1], 'Kept while the signal is over the threshold.', {
      group,
      ...never,
    }),
    release: number('Release', 0, [0, 60], 'Down to its lowest.', { unit: 's', group, ...never }),
    ...signalRange,
  },
  bench: {
    threshold: 'threshold',
    envelope: ['attack', 'hold', 'decay', 'sustain', 'release'],
  },
  follow(dials, context) {
    const { threshold, delay, least, fires } = dials;
    const watched = context.signal(dials.signal);
    const input = (time: number): number => watched(time - delay);
    const before = { since: -Infinity, from: 0, until: -Infinity };
    const first = (): Strike => ({ ...before, input: input(context.start) });
    const steps = new Steps<Strike>(context, first, (last, time) => {
      const now = input(time);
      const [was, is] = [last.input >= threshold, now >= threshold];
      if (was === is) return { ...last, input: now };
      const cross = crossing(input, threshold, time - STEP, time);
      if (was) return { ...last, until: cross, input: now };
      const value = envelopeAt(dials, last, cross);
      const runs = cross < last.since + dials.attack + dials.hold + dials.decay || value > 0;
      if (cross - last.since < least || (fires === 'once' && runs)) return { ...last, input: now };
      return { since: cross, from: value, until: Infinity, input: now };
    });
    const to = ranged(dials);
    const follow: Follow = (time) => {
      const [a, b] = steps.around(time);
      // A strike between the two steps counts from its own moment on.
      return to(envelopeAt(dials, time >= b.since ? b : a, time));
    };
    follow.fired = (from, until) => {
      const found = new Set<number>();
      for (let time = from; time < until + STEP; time += STEP) {
        const { since } = steps.around(time)[1];
        if (since >= from && since <= until) found.add(since);
      }
      return [...found];
    };
    return follow;
  },
});
