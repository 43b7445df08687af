import { inEffect } from '../../piece/follow';
import type { Piece, Swarm } from '../../piece/types';
import { remembers } from '../finish/remembers';
import { historyRows } from '../motion/history';
import { sightOf } from '../motion/motionKernel';
import { parentOf } from '../motion/motionKey';
import { LEAST_AHEAD, lifeIn, MOST_TURNS } from '../motion/room';

/** Seconds before the first frame that a finish that remembers sees. */
const RUN_IN = 5;
/** Seconds that what never forgets, as media, has to come near to what it is a round later. */
const SETTLING = 10;

/**
 * Frames before the first one of a piece that comes round, so that all that is there then is what a round later is
 * there again: as long as anybody lives, and those that they were born from before them.
 */
export function prerollOf(piece: Piece): number {
  const { length, rate, preroll } = piece.frame;
  const on = piece.swarms.filter((s) => s.on).map((s) => inEffect(piece, s));
  const lasting = (swarm: Swarm): number => {
    const frames = Math.ceil(lifeIn(piece, swarm) * rate) + historyRows(swarm) + 2;
    // Neighbours have had to do with each other since their round began.
    const needed = sightOf(piece, swarm) === null ? frames : Math.ceil(frames / length) * length;
    return Math.min(needed, MOST_TURNS * length);
  };
  const since = (swarm: Swarm, trail: readonly string[]): number => {
    const parent = on.find((s) => s.id === parentOf(swarm) && !trail.includes(s.id));
    return lasting(swarm) + (parent ? since(parent, [...trail, parent.id]) : 0);
  };
  const longest = Math.max(0, ...on.map((s) => since(s, [s.id])));
  const settles = piece.media.some((m) => m.on) ? Math.round(SETTLING * rate) : 0;
  return Math.max(preroll, longest + settles) + runInOf(piece);
}

/** Frames that are asked for before those that are made. */
const BEFORE = 4;

/**
 * Rounds that ids of births are ahead at the first frame of a piece that comes round: as many as its warm-up has, and so
 * many that each slot of what lives longest has had its turn.
 *
 * @param frame with the warm-up as its `preroll`
 */
export function roundsAhead({ loop, length, preroll }: Piece['frame']): number {
  if (!loop) return LEAST_AHEAD;
  return Math.max(LEAST_AHEAD, Math.ceil((preroll + BEFORE) / length) + MOST_TURNS);
}

/** Frames before the first one that a finish that remembers has to have seen where the piece comes round. */
export function runInOf({ frame: { loop, length, rate }, finish }: Piece): number {
  // One that is off may be switched on by a cue.
  return loop && finish.some(remembers) ? Math.min(length, Math.round(RUN_IN * rate)) : 0;
}
