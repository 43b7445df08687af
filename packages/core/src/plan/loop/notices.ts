import { inEffect } from '../../piece/follow';
import type { Piece } from '../../piece/types';
import { lifeIn, MOST_TURNS } from '../motion/room';
import type { Notice } from '../plan';

/** Notices of parts that do not come round in a looping piece, each with a way to mend it. */
export function loopNotices(piece: Piece): Notice[] {
  const { loop, length, rate } = piece.frame;
  if (!loop) return [];
  const most = (MOST_TURNS * length) / rate;
  const swarms = piece.swarms
    .filter((s) => s.on && lifeIn(piece, inEffect(piece, s)) > most)
    .map(({ id, name }) => ({
      part: id,
      message: `${name} lives for more than ${String(MOST_TURNS)} rounds of the loop and then gives way to others. A shorter lifetime, or a longer piece, lets it go over.`,
    }));
  const media = piece.media
    .filter((m) => m.on)
    .map(({ id, name }) => ({
      part: id,
      message: `${name} comes to rest at the end of the loop and begins again; what rides on it goes its way a little differently in each round, which can be seen as a small jump.`,
    }));
  return [...swarms, ...media];
}
