import { FOR_EVER, longestLife } from '../../catalogue/swarmDials';
import { inEffect } from '../../piece/follow';
import type { Piece } from '../../piece/types';
import { sightOf } from '../motion/motionKernel';
import { MOST_TURNS } from '../motion/room';
import type { Notice } from '../plan';

/** What does not come round in a piece that does, and what helps. */
export function loopNotices(piece: Piece): Notice[] {
  const { loop, length, rate } = piece.frame;
  if (!loop) return [];
  const period = length / rate;
  const told: Notice[] = [];
  for (const swarm of piece.swarms.filter((s) => s.on).map((s) => inEffect(piece, s))) {
    const { id: part, name } = swarm;
    const tell = (message: string): void => void told.push({ part, message });
    const life = longestLife(swarm.dials);
    if (life >= FOR_EVER) {
      tell(
        `${name} lives for ever, but the piece loops: at the end all of it gives way to what is born in the next round. A lifetime lets it go over.`,
      );
    } else if (life > MOST_TURNS * period) {
      tell(
        `${name} lives longer than ${String(MOST_TURNS)} rounds of the loop: then it gives way to others. A shorter lifetime or a longer piece lets it go over.`,
      );
    }
    if (sightOf(piece, swarm) !== null) {
      tell(
        `${name} looks at its neighbours, which go their ways a little differently in each round: the loop has a small jump.`,
      );
    }
  }
  for (const { id, name, on } of piece.media) {
    if (on)
      told.push({
        part: id,
        message: `${name} never quite forgets: where the piece loops it may have a small jump. Fading lets it come near.`,
      });
  }
  return told;
}
