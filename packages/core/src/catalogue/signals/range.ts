import { number, type Dials, type DialValues } from '../dials';

/** A signal's own dials are plain numbers. */
export const never = { varies: 'never' as const };

export const signalRange: Dials = {
  low: number('Low', 0, [-1e6, 1e6], 'Its lowest value.', never),
  high: number('High', 1, [-1e6, 1e6], 'Its highest value.', never),
};

/** Takes 0 to 1 to what the dials say. */
export function ranged(dials: DialValues): (value: number) => number {
  const [low, high] = [dials.low as number, dials.high as number];
  return (value) => low + (high - low) * value;
}
