import type { Keys } from '../../feeds/feeds';
import { between } from '../../feeds/shape';
import { signal } from '../define';

/** The value of keyframes at a time; before the first and after the last it rests. */
export function keysAt(keys: Keys, time: number): number {
  const [a, b, t] = between(keys, (k) => k.at, time);
  return a.value + (b.value - a.value) * t;
}

export const keyframes = signal({
  kind: 'keyframes',
  title: 'Keyframes',
  help: 'Values at times, with eased ways between them.',
  icon: 'M3 18l5-9l7 5l6-9M8 6l3 3l-3 3l-3-3zM15 11l3 3l-3 3l-3-3z',
  dials: {
    keys: {
      type: 'keys' as const,
      title: 'Keys',
      help: 'Edited on the timing strip.',
      group: 'Dials',
      default: [
        { at: 0, value: 0 },
        { at: 4, value: 1 },
      ],
    },
  },
  follow(dials) {
    const keys = dials.keys;
    return (time) => keysAt(keys, time);
  },
});
