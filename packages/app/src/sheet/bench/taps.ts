/** Seconds after which a tap begins anew. */
const LONGEST = 2.5;
/** Most taps that are looked at. */
const MOST = 16;

/**
 * The tempo of taps along: the slope of a straight line through their times (least squares), so that one that came
 * late hardly counts.
 *
 * @param before seconds of the taps so far
 * @param now second of the newest one
 */
export function tempoOfTaps(
  before: readonly number[],
  now: number,
): { taps: number[]; tempo: number | null } {
  const last = before.at(-1);
  const taps = last === undefined || now - last > LONGEST ? [now] : [...before, now].slice(-MOST);
  if (taps.length < 3) return { taps, tempo: null };
  const middle = (taps.length - 1) / 2;
  const mean = taps.reduce((a, b) => a + b, 0) / taps.length;
  let [over, under] = [0, 0];
  taps.forEach((time, i) => {
    over += (i - middle) * (time - mean);
    under += (i - middle) ** 2;
  });
  const tempo = 60 / (over / under);
  return { taps, tempo: Math.min(400, Math.max(10, tempo)) };
}
