import { fluidDials } from '../../sections/media/dials';
import { influenceOf, partsThat } from '../../piece/influence';
import { inEffect } from '../../piece/follow';
import type { Part, Piece } from '../../piece/types';
import { giversOf } from './givers';

/** Dials by which it is only seen. */
const SHOWN = new Set(
  Object.entries(fluidDials)
    .filter(([, spec]) => spec.group === fluidDials.shown.group)
    .map(([key]) => key),
);

/** Inputs of a medium's flow beside signals, stock and the motion of swarms. */
export function mediumKey(piece: Piece, medium: Part): unknown[] {
  const { id, kind, on, dials } = medium;
  const { width, height } = piece.frame;
  const own = Object.entries(dials).filter(([key]) => !SHOWN.has(key));
  const felt = partsThat(piece, 'felt')
    .filter((p) => p.on && influenceOf(piece, p.id, id) !== 0)
    .map((p) => [p.id, p.kind, p.dials, influenceOf(piece, p.id, id)]);
  const givers = new Set(giversOf(piece, medium));
  const given = piece.swarms
    .filter((s) => givers.has(s.id))
    .map((s) => {
      const { stirs, colour, light, opacity } = inEffect(piece, s).dials;
      return [s.id, stirs, colour, light, opacity];
    });
  // One that fills the frame goes along with the camera.
  const seen = dials.fills === 'frame' ? [piece.camera, width / height] : [];
  return [id, kind, on, own, felt, given, ...seen];
}

/** The media that a text of dials names, and those that these feel in turn, in the order of the piece. */
export function mediaNamed(piece: Piece, text: string): Part[] {
  const found = new Set<Part>();
  const visit = (names: string): void => {
    for (const medium of piece.media) {
      if (found.has(medium) || !medium.on || !names.includes(`"${medium.id}"`)) continue;
      found.add(medium);
      visit(JSON.stringify(mediumKey(piece, medium)));
    }
  };
  visit(text);
  return piece.media.filter((m) => found.has(m));
}
