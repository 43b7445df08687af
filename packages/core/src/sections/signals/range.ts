import { number, type ValuesOf } from '../../language/dials';

/** A signal's own dials are plain numbers. */
export const never = { varies: 'never' as const };

export const signalRange = {
  low: number('Low', 0, [-1e6, 1e6], 'Its lowest value.', never),
  high: number('High', 1, [-1e6, 1e6], 'Its highest value.', never),
};

/** Takes 0 to 1 to what the dials say. */
export function ranged(dials: ValuesOf<typeof signalRange>): (value: number) => number {
  const [low, high] = [dials.low, dials.high];
  return (value) => low + (high - low) * value;
}
