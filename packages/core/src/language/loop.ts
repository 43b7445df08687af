import type { FrameSettings } from '../piece/types';

/** What a loop is of. */
export type Looping = Pick<FrameSettings, 'loop' | 'length' | 'rate'>;

/** Seconds at the beginning of a loop in which what would have come behind its end goes over into it, at the most. */
const SEAM = 0.5;

/** The frame of a loop that a frame is, from 0; frames of a piece that does not loop are their own. */
export function phaseOf({ loop, length }: Pick<Looping, 'loop' | 'length'>, frame: number): number {
  return loop ? frame - Math.floor(frame / length) * length : frame;
}

/** Seconds after which a piece comes round again; null where it does not. */
export function periodOf({ loop, length, rate }: Looping): number | null {
  return loop ? length / rate : null;
}

/**
 * What goes with time, made to come round: at the beginning it goes over from what would have come behind the end into
 * what it is, so that it has no jump in it. What repeats by itself in that time is as it was.
 *
 * @param follow a function of the time in seconds
 */
export function looped(
  follow: (time: number) => number,
  period: number | null,
): (time: number) => number {
  if (period === null) return follow;
  const seam = Math.min(SEAM, period / 4);
  return (time) => {
    const at = time - Math.floor(time / period) * period;
    if (at >= seam) return follow(at);
    const here = at / seam;
    const smooth = here * here * (3 - 2 * here);
    return smooth * follow(at) + (1 - smooth) * follow(at + period);
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

/** Seconds that go to and fro in a period, as fast as time at the most. */
export function swing(time: number, period: number): number {
  const turn = (2 * Math.PI) / period;
  return Math.sin(turn * time) / turn;
}
