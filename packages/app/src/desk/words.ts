import { framesOf, type Entry } from '@vast-swarm/core/show';
import type { Piece } from '@vast-swarm/core/piece';

/** Seconds as minutes and seconds. */
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const two = (n: number): string => String(n).padStart(2, '0');
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60];
  const rest = `${two(minutes)}:${two(whole % 60)}`;
  return hours > 0 ? `${String(hours)}:${rest}` : rest;
}

/** Seconds that an entry takes. */
export function secondsOf(entry: Entry, { frame }: Piece): number {
  const { from, until } = framesOf(entry, frame);
  return (until - from) / frame.rate;
}

/** The starter of the next entry, in a few words. */
export function starterWords(entry: Entry, piece: Piece | undefined): string {
  if (entry.next === 'time') return '';
  if (entry.next === 'hand') return 'waits for you';
  const cue = piece?.cues.find((c) => c.id === entry.cue)?.name;
  return cue ? `until ${cue}` : 'waits for a cue';
}
