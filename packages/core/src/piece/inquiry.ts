import { kindOf } from '../sections';
import type { Inquiry } from '../sections/kinds';
import type { Piece } from './types';

/** Facts of a piece for kinds that say why nothing comes of them. */
export function inquiryOf({ swarms, media, performers }: Piece): Inquiry {
  return {
    swarm: (id) => swarms.find((s) => s.id === id),
    medium: (id) => media.find((m) => m.id === id),
    performer(id) {
      const found = performers.find((p) => p.id === id);
      if (!found) return undefined;
      const { name, on, kind, dials } = found;
      return { name, on, moves: dials[kindOf('performers', kind).plays] !== '' };
    },
  };
}
