import { STEPS } from '../../stock/sound/loudness';
import type { SignalContext } from '../kinds';

/** Seconds of a step. */
export const STEP = 1 / STEPS;

/** Most steps that are kept: two hours. */
const MOST = 2 * 3600 * STEPS;

/**
 * A state that depends on its own past: worked out step by step from the piece's beginning, whatever frame is asked
 * for first, and kept. Where live input has changed, it is worked out anew from there.
 */
export class Steps<S> {
  private readonly states: S[] = [];
  private seen: number;

  /**
   * @param first what it is before the piece begins; asked for when a time is: a compile waits for no sound
   * @param next what it is a step later, at a time in seconds
   */
  constructor(
    private readonly context: Pick<SignalContext, 'start' | 'live'>,
    private readonly first: () => S,
    private readonly next: (before: S, time: number) => S,
  ) {
    this.seen = context.live.changes();
  }

  /** The states before and behind a time, and where between them it lies, 0 to 1. */
  around(time: number): [S, S, number] {
    const { states, context } = this;
    const changes = context.live.changes();
    if (changes !== this.seen) {
      const from = Math.floor((context.live.changedFrom(this.seen) - context.start) * STEPS);
      states.length = Math.min(states.length, Math.max(1, from + 1));
      this.seen = changes;
    }
    const at = Math.min(MOST, Math.max(0, (time - context.start) * STEPS));
    // Where a time falls on a step, rounding is not to ask for the next.
    const near = Math.round(at);
    const place = Math.abs(at - near) < 1e-6 ? near : at;
    const low = Math.floor(place);
    const high = Math.ceil(place);
    if (states.length === 0) states.push(this.first());
    while (states.length <= high) {
      states.push(this.next(states.at(-1)!, context.start + states.length * STEP));
    }
    return [states[low]!, states[high]!, place - low];
  }
}

/** The same for a number, straight from step to step. */
export function numberInSteps(
  context: Pick<SignalContext, 'start' | 'live'>,
  first: () => number,
  next: (before: number, time: number) => number,
): (time: number) => number {
  const steps = new Steps(context, first, next);
  return (time) => {
    const [a, b, t] = steps.around(time);
    return a + (b - a) * t;
  };
}

/** An exponential follower of a number with a delay of its own up and down: time constants in seconds, 0 at once. */
export function smoothed(
  context: Pick<SignalContext, 'start' | 'live'>,
  input: (time: number) => number,
  rise: number,
  fall: number,
): (time: number) => number {
  if (rise <= 0 && fall <= 0) return input;
  const part = (seconds: number): number => (seconds > 0 ? 1 - Math.exp(-STEP / seconds) : 1);
  const [up, down] = [part(rise), part(fall)];
  return numberInSteps(
    context,
    () => input(context.start),
    (before, time) => {
      const now = input(time);
      return before + (now - before) * (now > before ? up : down);
    },
  );
}
