/** Length of a loop: its frames, and how many there are a second. */
export interface Looping {
  loop?: boolean | undefined;
  length: number;
  rate: number;
}

/** Seconds at the beginning of a loop in which what would have come behind its end goes over into it. */
export function seamOf(period: number): number {
  return Math.min(0.5, period / 4);
}

/** How much of what is there at a second of a loop has come in, beside what would have come behind its end; to 1. */
export function comesIn(second: number, period: number): number {
  const here = Math.min(1, Math.max(0, second / seamOf(period)));
  return here * here * (3 - 2 * here);
}

/** The frame of a loop that a frame is, from 0; frames of a piece that does not loop are their own. */
export function phaseOf({ loop, length }: Pick<Looping, 'loop' | 'length'>, frame: number): number {
  return loop ? modulo(frame, length) : frame;
}

/** Which round of a loop a frame is in; frame 0 is in round 0. */
export function roundOf({ loop, length }: Pick<Looping, 'loop' | 'length'>, frame: number): number {
  return loop ? Math.floor(frame / length) : 0;
}

/** Remainder of a division, from 0 up to the divisor, for negative numbers too. */
export function modulo(value: number, by: number): number {
  return value - Math.floor(value / by) * by;
}

/** Seconds after which a piece comes round again; null where it does not. */
export function periodOf({ loop, length, rate }: Looping): number | null {
  return loop ? length / rate : null;
}

/**
 * A function of time that comes round: at the beginning it goes over from what would have come behind the end into
 * what it is, so that it has no jump in it. What repeats by itself in that time is as it was.
 *
 * @param follow a function of the time in seconds
 */
export function looped(
  follow: (time: number) => number,
  period: number | null,
): (time: number) => number {
  if (period === null) return follow;
  return (time) => {
    const at = modulo(time, period);
    const here = comesIn(at, period);
    return here === 1 ? follow(at) : here * follow(at) + (1 - here) * follow(at + period);
  };
}

/**
 * How far something has gone at a time that goes on at a speed, where every `round` brings it back to where it was: in a
 * loop it goes on by the nearest number of whole rounds; by less than half of one it goes to and fro, no faster.
 *
 * @param speed a second
 */
export function gone(speed: number, time: number, period: number | null, round = 1): number {
  if (period === null) return speed * time;
  const whole = Math.round((speed * period) / round);
  return whole === 0 ? speed * swing(time, period) : (whole * round * time) / period;
}

/** Seconds in which what lives for ever gives way, in a loop, to the same of the next round. */
export function givingWay(period: number): number {
  return Math.min(1, period / 4);
}

/** Seconds that go to and fro in a period, as fast as time at the most. */
export function swing(time: number, period: number): number {
  const turn = (2 * Math.PI) / period;
  return Math.sin(turn * time) / turn;
}
