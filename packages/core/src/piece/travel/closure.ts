import { inEffect } from '../follow';
import { influenceOf } from '../influence';
import { signalId } from '../chains';
import { dialsOf, mapsIn, signalsIn, stockNamed, type DialPlace } from '../walk';
import { formulaSignals } from '../../formula/parse';
import { isLayers } from '../../feeds/feeds';
import { isCalled } from '../create';
import { listsWhere, namedWith, sectionOf, type CalledList } from '../../sections/lists';
import type { PartList, Piece } from '../types';

/** A part by its list and id. */
export interface PartRef {
  list: PartList;
  id: string;
}

export type Travelling = Exclude<PartList, CalledList>;

/** Whether parts of a list are taken elsewhere; controls and cues stay with their piece. */
export function isTravelling(list: PartList): list is Travelling {
  return !isCalled(list);
}

/** Lists whose parts are taken elsewhere. */
export const travelling = (): Travelling[] => listsWhere((s) => !s.called).filter(isTravelling);

/** Ids of parts by list, and of things of the stock. */
export type Closure = Record<Travelling | 'stock', Set<string>>;

/** A thing that the value of a dial names. */
export interface Named {
  list: Travelling | 'stock' | 'shown';
  id: string;
}

/** Parts and things of the stock that a dial names; of `shown`, which of pictures, media and the stock is not told. */
export function namedBy({ spec, value }: Pick<DialPlace, 'spec' | 'value'>): Named[] {
  const all = (list: Named['list'], ids: Iterable<string>): Named[] =>
    [...ids].filter(Boolean).map((id) => ({ list, id: list === 'signals' ? signalId(id) : id }));
  if (spec.type === 'swarm') return all('swarms', [value as string]);
  if (spec.type === 'part') return all(spec.of as Travelling, [value as string]);
  if (spec.type === 'formula') return all('signals', formulaSignals(value as string));
  const layers =
    typeof value === 'object' && 'feed' in value && isLayers(value) ? value.layers : [];
  return [
    ...all(
      'swarms',
      layers.flatMap((l) => (l.by === 'swarm' && l.swarm) || []),
    ),
    ...all('signals', signalsIn(value)),
    ...all('shown', [...stockNamed(spec, value), ...mapsIn(value)]),
  ];
}

/**
 * Parts, with all that they name, and all that is named there: for swarms and media also the forces and colliders that
 * they feel.
 */
export function closureOf(piece: Piece, chosen: readonly PartRef[]): Closure {
  const found = Object.fromEntries(
    [...travelling(), 'stock'].map((list) => [list, new Set<string>()]),
  ) as Closure;
  const names = namedIn(piece);
  const visit = (list: Named['list'], id: string): void => {
    if (list === 'shown') {
      for (const one of namedWith('stock') as (Travelling | 'stock')[]) {
        if (piece[one].some((p) => p.id === id)) visit(one, id);
      }
      return;
    }
    if (found[list].has(id) || !piece[list].some((p) => p.id === id)) return;
    found[list].add(id);
    for (const named of names.get(`${list} ${id}`) ?? []) visit(named.list, named.id);
    if (list === 'stock' || sectionOf(list).influence !== 'feels') return;
    for (const felt of travelling().filter((l) => sectionOf(l).influence === 'felt')) {
      for (const part of piece[felt])
        if (influenceOf(piece, part.id, id) !== 0) visit(felt, part.id);
    }
  };
  for (const { list, id } of chosen) if (isTravelling(list)) visit(list, id);
  return found;
}

/** Things that each part names in its dials as they are in effect, by the part's list and id. */
export function namedIn(piece: Piece): Map<string, Named[]> {
  const settled = { ...piece, swarms: piece.swarms.map((s) => inEffect(piece, s)) };
  const found = new Map<string, Named[]>();
  for (const place of dialsOf(settled)) {
    const [list, at] = place.path as [keyof Piece, number];
    if (list === 'camera' || list === 'backdrop') continue;
    const key = `${list} ${(settled[list] as { id: string }[])[at]!.id}`;
    found.set(key, [...(found.get(key) ?? []), ...namedBy(place)]);
  }
  return found;
}
