import { number, partDial } from '../../language/dials';
import { signal } from '../define';
import { STEP, Steps } from './inSteps';
import { never } from './range';

interface Tally {
  sum: number;
  /** The amount to be added at this step. */
  input: number;
  resets: boolean;
}

export const tally = signal({
  kind: 'tally',
  title: 'Tally',
  help: 'Adds up another signal over time: a wheel that turns as fast as it is loud.',
  icon: 'M5 6v10M9 6v10M13 6v10M17 6v10M3 14l16-6',
  dials: {
    signal: partDial('Adds up', 'signals', 'The signal that is added up, each second once.'),
    gain: number('Times', 1, [-1000, 1000], 'Multiplies what is added.', never),
    reset: partDial('Set back by', 'signals', 'When this rises over a half, it begins at 0 again.'),
    wrap: number('Begins again at', 0, [0, 1e6], 'There it is 0 again; 0 is never.', never),
  },
  follow({ signal: adds, gain, reset, wrap }, context) {
    const [input, back] = [context.signal(adds), context.signal(reset)];
    const first = (): Tally => {
      return { sum: 0, input: input(context.start), resets: back(context.start) > 0.5 };
    };
    const steps = new Steps<Tally>(context, first, (before, time) => {
      const [now, resets] = [input(time), back(time) > 0.5];
      const sum = before.sum + ((before.input + now) / 2) * STEP;
      return { sum: resets && !before.resets ? 0 : sum, input: now, resets };
    });
    return (time) => {
      const [a, b, t] = steps.around(time);
      const restarted = b.resets && !a.resets;
      const sum = (restarted && t < 1 ? a.sum : a.sum + (b.sum - a.sum) * t) * gain;
      return wrap > 0 ? sum - wrap * Math.floor(sum / wrap) : sum;
    };
  },
});
