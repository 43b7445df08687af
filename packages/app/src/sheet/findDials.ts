import { dialsOf, type DialPlace, type Part, type Piece, type Swarm } from '@vast-swarm/core/piece';
import type { Selection } from '../store/selection';

/** The id of the field that they are looked for in, for the key that goes there. */
export const FIND_DIAL = 'find-dial';

/** Goes to that field. */
export function goToFindDial(): void {
  document.getElementById(FIND_DIAL)?.focus();
}

/** A dial of the piece, as it is found. */
export interface FoundDial {
  /** Where its value stands. */
  path: (string | number)[];
  title: string;
  /** The part that it belongs to, and which of its groups. */
  part: string;
  group: string;
  selection: Selection;
}

/** Titles of groups in the sheet by what stands at the path of a swarm. */
const SECTIONS: Readonly<Record<string, string>> = { emitter: 'Emitter', launch: 'Launch' };

function found(piece: Piece, { spec, path }: DialPlace): FoundDial {
  const [list, at, section, body] = path as [string, number, string, number];
  const dial = { path, title: spec.title };
  if (list === 'camera' || list === 'backdrop') {
    const part = list === 'camera' ? 'Camera' : 'Backdrop';
    return { ...dial, part, group: 'Kind', selection: { list, id: '' } };
  }
  const part = (piece[list as 'swarms'] as readonly (Part | Swarm)[])[at]!;
  const inSwarm = SECTIONS[section] ?? (section === 'bodies' ? `Body ${String(body + 1)}` : null);
  const group = (list === 'swarms' ? inSwarm : null) ?? spec.group;
  return { ...dial, part: part.name, group, selection: { list: list as 'swarms', id: part.id } };
}

/** All dials of a piece. */
export function everyDial(piece: Piece): FoundDial[] {
  return [...dialsOf(piece)].map((place) => found(piece, place));
}

/** Those that have all words in their own name or their part's; a name that begins with the first word comes first. */
export function findDials(all: readonly FoundDial[], text: string, most = 40): FoundDial[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const rank = ({ title }: FoundDial): number => {
    const name = title.toLowerCase();
    if (name.startsWith(words[0]!)) return 0;
    return name.includes(words[0]!) ? 1 : 2;
  };
  return all
    .filter(({ title, part, group }) => {
      const name = `${title} ${part} ${group}`.toLowerCase();
      return words.every((w) => name.includes(w));
    })
    .map((dial) => ({ dial, at: rank(dial) }))
    .sort((a, b) => a.at - b.at)
    .slice(0, most)
    .map(({ dial }) => dial);
}
