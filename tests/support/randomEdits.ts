import { catalogue, type DialSpec } from '@vast-swarm/core/kinds';
import { dialsOf, PART_LISTS, type PartList, type Piece } from '@vast-swarm/core/piece';
import type { DialValue } from '@vast-swarm/core/feeds';
import type { PieceState } from '../../packages/app/src/store/history';
import { pieceActions, pieceReducer } from '../../packages/app/src/store/pieceSlice';
import { dice } from './mutate';

/** Edits as an artist makes them, by chance that is the same each time. */

export type Edit = Parameters<typeof pieceReducer>[1];
type Roll = ReturnType<typeof dice>;

const LISTS: readonly PartList[] = ['swarms', ...PART_LISTS];

const oneOf = <T>(roll: Roll, all: readonly T[]): T | undefined =>
  all[roll(Math.max(1, all.length))];

/** A value of a dial that its limits allow; undefined where chance has none for it. */
function another(roll: Roll, spec: DialSpec, value: DialValue): DialValue | undefined {
  if (spec.type === 'choice') return oneOf(roll, spec.options)!.value;
  if (spec.type === 'number' && typeof value === 'number') {
    const between = spec.min + ((spec.max - spec.min) * roll(1001)) / 1000;
    return spec.whole ? Math.round(between) : between;
  }
  if (spec.type === 'colour' && typeof value === 'string')
    return `#${String(100000 + roll(900000))}`;
  return undefined;
}

function dial(roll: Roll, piece: Piece): Edit | null {
  const place = oneOf(roll, [...dialsOf(piece)]);
  const value = place && another(roll, place.spec, place.value);
  if (!place || value === undefined) return null;
  const merge = roll(2) ? place.path.join('/') : undefined;
  return pieceActions.set({ path: place.path, value, label: place.spec.title, merge });
}

/** A part of the piece, with its list. */
function part(roll: Roll, piece: Piece): { list: PartList; id: string } | null {
  const list = oneOf(
    roll,
    LISTS.filter((l) => piece[l].length > 0),
  );
  return list ? { list, id: oneOf<{ id: string }>(roll, piece[list])!.id } : null;
}

function added(roll: Roll): Edit {
  const list = oneOf(roll, LISTS)!;
  const shelf = list === 'swarms' ? 'emitters' : list;
  return pieceActions.added({ list, kind: oneOf(roll, catalogue[shelf])!.kind });
}

const KINDS: readonly ((roll: Roll, piece: Piece) => Edit | null)[] = [
  dial,
  dial,
  dial,
  added,
  (roll, piece) => {
    const found = part(roll, piece);
    return found && pieceActions.removed(found);
  },
  (roll, piece) => {
    const found = part(roll, piece);
    return (
      found &&
      pieceActions.duplicated({ ...found, following: roll(2) === 1 && found.list === 'swarms' })
    );
  },
  (roll, piece) => {
    const list = oneOf(roll, LISTS)!;
    const count = piece[list].length;
    return count < 2 ? null : pieceActions.moved({ list, from: roll(count), to: roll(count) });
  },
  (roll, piece) => {
    const at = roll(Math.max(1, piece.swarms.length));
    if (!piece.swarms[at]) return null;
    const kind = oneOf(roll, catalogue.emitters)!.kind;
    return pieceActions.kindChanged({ path: ['swarms', at, 'emitter'], shelf: 'emitters', kind });
  },
  (roll, piece) => {
    const found = part(roll, piece);
    return found && pieceActions.alone(found);
  },
  (_, piece) => {
    const follower = piece.swarms.find((s) => s.follows);
    return follower ? pieceActions.freed(follower.id) : null;
  },
  (roll, piece) => {
    const places = [...dialsOf(piece)].filter(
      ({ path, spec, value }) =>
        path[0] === 'swarms' &&
        typeof value === 'number' &&
        spec.type === 'number' &&
        spec.varies !== 'never',
    );
    const place = oneOf(roll, places);
    if (place?.spec.type !== 'number') return null;
    const { min, max } = place.spec;
    return roll(2)
      ? pieceActions.putForward({ path: place.path })
      : pieceActions.signalled({ path: place.path, from: min, to: max });
  },
];

/** Runs so many edits; gives the state behind each, the first being that before all. */
export function edited(state: PieceState, seed: number, count: number): PieceState[] {
  const roll = dice(seed);
  const states = [state];
  while (states.length <= count) {
    const now = states.at(-1)!;
    const edit = oneOf(roll, KINDS)!(roll, now.piece!);
    if (edit) states.push(pieceReducer(now, edit));
  }
  return states;
}
