import { fluidDials } from '../../sections/media/dials';
import { valuesOf } from '../../language/dials';
import { inEffect } from '../../piece/follow';
import type { Part, Piece, Swarm } from '../../piece/types';

/** Whether a swarm's particles leave something in a medium. */
function gives(piece: Piece, swarm: Swarm, { dials }: Part): boolean {
  const { swarm: only, stir, tint, give } = valuesOf(fluidDials, dials);
  if (stir === 0 && tint === 0 && give === 0) return false;
  if (!swarm.on || (only !== '' && swarm.id !== only)) return false;
  return inEffect(piece, swarm).dials.stirs !== 0;
}

/** The swarms whose particles leave something in a medium. */
export function giversOf(piece: Piece, medium: Part): string[] {
  return piece.swarms.filter((s) => gives(piece, s, medium)).map((s) => s.id);
}

/** The media in which a swarm leaves something. */
export function stirredBy(piece: Piece, id: string): Part[] {
  const swarm = piece.swarms.find((s) => s.id === id);
  return swarm ? piece.media.filter((m) => m.on && gives(piece, swarm, m)) : [];
}
