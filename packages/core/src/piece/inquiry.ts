import type { Inquiry } from '../catalogue/kinds';
import type { Piece } from './types';

/** What kinds may ask of a piece to say why nothing comes of them. */
export function inquiryOf({ swarms, media, performers }: Piece): Inquiry {
  return {
    swarm: (id) => swarms.find((s) => s.id === id),
    medium: (id) => media.find((m) => m.id === id),
    performer: (id) => performers.find((p) => p.id === id),
  };
}
