import { looped, seamOf } from '../src/feeds/loop';

/** What goes with time, made to come round. */

const FOLLOWED: [string, (time: number) => number][] = [
  ['goes straight on', (t) => 3 * t - 1],
  ['falls away', (t) => Math.exp(-t)],
  ['swings by its own time', (t) => Math.sin(2.7 * t)],
];

describe.each([0.8, 2, 7.5])('in a loop of %d seconds', (period) => {
  const seam = seamOf(period);

  test.each(FOLLOWED)(
    'what %s has no jump and no kink at its end, nor where the seam ends',
    (_, follow) => {
      const round = looped(follow, period);
      const h = 1e-5;
      const speed = (f: (t: number) => number, t: number): number =>
        (f(t + h) - f(t - h)) / (2 * h);
      for (const at of [0, seam, period]) {
        expect(Math.abs(round(at + 1e-9) - round(at - 1e-9))).toBeLessThan(1e-6);
        expect(Math.abs(speed(round, at + 2 * h) - speed(round, at - 2 * h))).toBeLessThan(0.02);
      }
    },
  );

  test.each(FOLLOWED)(
    'what %s is itself behind the seam, and in it no more than what meets there',
    (_, follow) => {
      const round = looped(follow, period);
      for (let k = 0; k < 40; k++) {
        const at = (k * period) / 40;
        const [here, beyond] = [follow(at), follow(at + period)];
        if (at >= seam) expect(round(at)).toBe(here);
        expect(round(at)).toBeGreaterThanOrEqual(Math.min(here, beyond) - 1e-12);
        expect(round(at)).toBeLessThanOrEqual(Math.max(here, beyond) + 1e-12);
        expect(round(at + 3 * period)).toBeCloseTo(round(at), 9);
      }
      expect(round(0)).toBeCloseTo(follow(period), 9);
    },
  );
});
