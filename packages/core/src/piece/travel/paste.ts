import equal from 'fast-deep-equal';
import { freshId, freshName } from '../create';
import { inEffect } from '../follow';
import { influenceOf, partsThat } from '../influence';
import { validatePiece } from '../parse';
import { namedWith, sectionOf } from '../../sections/lists';
import type { Piece } from '../types';
import { closureOf, namedIn, travelling, type PartRef, type Travelling } from './closure';
import type { Parts } from './parts';
import { renamed } from './renamed';

/**
 * A piece with parts that come from elsewhere. What they need and the piece has already, the very same, is not added
 * again. Swarms feel what they felt where they came from and nothing else, so that they look the same; forces that were
 * chosen by themselves are felt by all.
 *
 * @throws PieceError where the piece has no room for them
 */
export function pasted(
  piece: Piece,
  { piece: from, chosen }: Parts,
): { piece: Piece; added: PartRef[] } {
  const found = closureOf(from, chosen);
  const picked = new Set(chosen.map(({ list, id }) => `${list} ${id}`));
  const reused = sameParts(piece, from, found, picked);
  const ids = newIds(piece, from, found, reused);
  const own = renamed(from, ids);
  const next = structuredClone(piece);
  const added: PartRef[] = [];
  const fresh = { felt: new Set<string>(), feeling: new Set<string>() };
  for (const list of [...travelling(), 'stock'] as const) {
    const target = next[list] as { id: string; name: string }[];
    from[list].forEach(({ id }, i) => {
      if (!found[list].has(id) || reused.has(`${list} ${id}`)) return;
      const part = own[list][i]!;
      target.push({ ...part, name: freshName(part.name, target) });
      if (list === 'stock') return;
      const isChosen = picked.has(`${list} ${id}`);
      if (isChosen) added.push({ list, id: part.id });
      const { influence } = sectionOf(list);
      if (influence === 'feels') fresh.feeling.add(part.id);
      if (influence === 'felt' && !isChosen) fresh.felt.add(part.id);
    });
  }
  putInfluence(next, own, fresh);
  return { piece: validatePiece(next), added };
}

/** Who acts on whom in the piece as it is with the new parts. */
function putInfluence(
  next: Piece,
  own: Piece,
  fresh: Record<'felt' | 'feeling', ReadonlySet<string>>,
): void {
  const known = new Set(partsThat(own, 'felt').map((p) => p.id));
  for (const { id: felt } of partsThat(next, 'felt')) {
    for (const { id } of partsThat(next, 'feels')) {
      const isNew = fresh.feeling.has(id);
      // What came along with a swarm is for that one.
      if (!isNew && !fresh.felt.has(felt)) continue;
      const value = isNew && known.has(felt) ? influenceOf(own, felt, id) : 0;
      if (value !== 1) (next.influence[felt] ??= {})[id] = value;
    }
  }
}

/** Parts, by list and id, that are needed and that the piece has already as they are. */
function sameParts(
  piece: Piece,
  from: Piece,
  found: ReturnType<typeof closureOf>,
  picked: ReadonlySet<string>,
): Set<string> {
  const same = new Set<string>();
  for (const list of [...travelling(), 'stock'] as const) {
    for (const part of from[list] as { id: string }[]) {
      const key = `${list} ${part.id}`;
      if (!found[list].has(part.id) || picked.has(key)) continue;
      const there = (piece[list] as { id: string }[]).find((p) => p.id === part.id);
      if (there && equal(settled(piece, there), settled(from, part))) same.add(key);
    }
  }
  // What names something else here is not the same.
  for (let before = -1; before !== same.size;) {
    before = same.size;
    for (const [key, named] of namedIn(from)) {
      const lacks = named.some(({ list, id }) =>
        list === 'shown'
          ? !namedWith('stock').some((l) => same.has(`${l} ${id}`))
          : !same.has(`${list} ${id}`),
      );
      if (lacks) same.delete(key);
    }
  }
  return same;
}

function settled(piece: Piece, part: { id: string }): unknown {
  return 'emitter' in part ? inEffect(piece, part as Piece['swarms'][number]) : part;
}

/** Ids for what is added, where the piece has those already. */
function newIds(
  piece: Piece,
  from: Piece,
  found: ReturnType<typeof closureOf>,
  reused: ReadonlySet<string>,
): Map<Travelling | 'stock', Map<string, string>> {
  const ids = new Map<Travelling | 'stock', Map<string, string>>();
  for (const list of [...travelling(), 'stock'] as const) {
    const lists = namedWith(list) as (Travelling | 'stock')[];
    const own = new Map<string, string>();
    ids.set(list, own);
    for (const { id } of from[list]) {
      if (!found[list].has(id) || reused.has(`${list} ${id}`)) continue;
      const taken = lists.flatMap((name): { id: string }[] => piece[name]);
      if (!taken.some((p) => p.id === id)) continue;
      // Nor may it be one that another new part has, or had.
      const others = lists.flatMap((name) => [
        ...from[name].map((p) => ({ id: p.id })),
        ...[...(ids.get(name)?.values() ?? [])].map((fresh) => ({ id: fresh })),
      ]);
      own.set(id, freshId(id.replace(/-\d+$/, ''), [...taken, ...others]));
    }
  }
  return ids;
}
