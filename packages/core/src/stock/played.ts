import { stretchOf } from './stretch';

/** How something that has pictures or poses at certain times is played. */
export interface Played {
  /** Second of the piece at which it begins to move. */
  start: number;
  /** Seconds of it in a second of the piece; below 0 it runs backwards, from its end. */
  speed: number;
  /** The stretch of it that is played, in seconds of it; `to` 0 is its end. */
  from: number;
  to: number;
  ends: 'loop' | 'bounce' | 'hold';
}

/** The number of the picture, or pose, that is there at a second of it; of the last two times the earlier. */
export function numberAt({ times }: { times: Float64Array }, second: number): number {
  let [low, high] = [0, times.length - 2];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (times[middle]! <= second) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The second of it that is played at a second of the piece; its times rise from 0, the last one is its end. */
export function secondAt(
  { times }: { times: Float64Array },
  playing: Played,
  time: number,
): number {
  const [from, to] = stretchOf(playing.from, playing.to, times.at(-1)!);
  const length = to - from;
  if (length <= 0) return from;
  const { speed, ends } = playing;
  const into = (time - playing.start) * speed + (speed < 0 ? length : 0);
  const round = (span: number): number => into - span * Math.floor(into / span);
  if (ends === 'loop') return from + round(length);
  if (ends === 'hold') return from + Math.min(length, Math.max(0, into));
  const there = round(2 * length);
  return from + (there > length ? 2 * length - there : there);
}

/** Whether it begins again between two seconds of the piece that follow each other. */
export function beginsAgain(
  thing: { times: Float64Array },
  playing: Played,
  before: number,
  after: number,
): boolean {
  if (playing.ends !== 'loop') return false;
  const step = secondAt(thing, playing, after) - secondAt(thing, playing, before);
  return playing.speed < 0 ? step > 0 : step < 0;
}
