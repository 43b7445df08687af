import { fluidDials } from '../../catalogue/media/dials';
import { valuesOf } from '../../language/dials';
import { inEffect } from '../../piece/follow';
import type { Part, Piece } from '../../piece/types';

/** The swarms whose particles leave something in a medium. */
export function giversOf(piece: Piece, { dials }: Part): string[] {
  const { swarm, stir, tint, give } = valuesOf(fluidDials, dials);
  if (stir === 0 && tint === 0 && give === 0) return [];
  return piece.swarms
    .filter((s) => s.on && (swarm === '' || s.id === swarm))
    .filter((s) => inEffect(piece, s).dials.stirs !== 0)
    .map((s) => s.id);
}

/** The media in which a swarm leaves something. */
export function stirredBy(piece: Piece, swarm: string): Part[] {
  return piece.media.filter((m) => m.on && giversOf(piece, m).includes(swarm));
}
