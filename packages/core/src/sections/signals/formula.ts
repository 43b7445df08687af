import { formulaAt } from '../../formula/numbers';
import { parseFormula } from '../../formula/parse';
import { signal } from '../define';

export const formula = signal({
  kind: 'formula',
  title: 'Formula',
  help: 'Worked out from time, frame and seed.',
  icon: 'M14 4c-3 0-3 2-3.5 5L9 17c-.4 2.5-1 4-3.5 4M7 11h8M14 14l6 6M20 14l-6 6',
  dials: {
    text: {
      type: 'formula' as const,
      title: 'Formula',
      help: 'Of time, frame, seed, pi and other signals, as 0.5 + 0.5 * sin(time) or signal(bell) ^ 2.',
      group: 'Dials',
      default: '0.5 + 0.5 * sin(time)',
    },
  },
  follow(dials, { rate, seed, signal: other }) {
    const parsed = parseFormula(dials.text, false);
    const signal = (id: string, time: number): number => other(id)(time);
    return (time) => formulaAt(parsed, { time, rate, seed, signal });
  },
});
