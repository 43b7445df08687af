import { withNamesOf } from '../../formula/parse';
import type { DialSpec } from '../../language/dials';
import type { DialValue } from '../../feeds/feeds';
import { signalId } from '../chains';
import { listsWhere, namedWith } from '../../sections/lists';
import type { Piece } from '../types';
import { dialsOf, putAt } from '../walk';
import { travelling, type Travelling } from './closure';

/** New ids of parts, by what lists they are named in. */
export type NewIds = ReadonlyMap<Travelling | 'stock', ReadonlyMap<string, string>>;

/** A piece whose parts and things of the stock have other ids, wherever they are named. */
export function renamed(piece: Piece, ids: NewIds): Piece {
  const next = structuredClone(piece);
  const of = (list: Travelling | 'stock', id: string): string => ids.get(list)?.get(id) ?? id;
  for (const list of [...travelling(), 'stock'] as const) {
    for (const part of next[list]) part.id = of(list, part.id);
  }
  for (const swarm of next.swarms) if (swarm.follows) swarm.follows = of('swarms', swarm.follows);
  next.influence = Object.fromEntries(
    Object.entries(next.influence).map(([felt, row]) => [
      either(
        ids,
        listsWhere((s) => s.influence === 'felt'),
        felt,
      ),
      Object.fromEntries(
        Object.entries(row).map(([id, v]) => [
          either(
            ids,
            listsWhere((s) => s.influence === 'feels'),
            id,
          ),
          v,
        ]),
      ),
    ]),
  );
  for (const { spec, value, path } of dialsOf(next)) {
    putAt(next, path, dialRenamed(spec, value, ids));
  }
  return next;
}

/** Lists in which pictures, media and things of the stock are told from each other by their ids. */
const shown = (): readonly string[] => namedWith('stock');

function either(ids: NewIds, lists: readonly string[], id: string): string {
  for (const list of lists) {
    const next = ids.get(list as Travelling)?.get(id);
    if (next !== undefined) return next;
  }
  return id;
}

function dialRenamed(spec: DialSpec, value: DialValue, ids: NewIds): DialValue {
  switch (spec.type) {
    case 'swarm':
      return either(ids, ['swarms'], value as string);
    case 'part':
      return spec.of === 'signals'
        ? signalRenamed(value as string, ids)
        : either(ids, [spec.of], value as string);
    case 'formula':
      return textRenamed(value as string, ids);
    case 'stock':
      return either(ids, shown(), value as string);
    case 'stocks':
      return (value as string[]).map((id) => either(ids, shown(), id));
    case 'choice':
    case 'label':
    case 'joints':
    case 'option':
      return value;
    default:
      return valueRenamed(value, ids) as DialValue;
  }
}

/** A signal, or a part of one as `id.2`. */
function signalRenamed(name: string, ids: NewIds): string {
  const id = signalId(name);
  return `${either(ids, ['signals'], id)}${name.slice(id.length)}`;
}

/** Values within a feed, a mask or a layer, with the new ids. */
function valueRenamed(value: unknown, ids: NewIds): unknown {
  if (Array.isArray(value)) return value.map((v) => valueRenamed(v, ids));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, part]: [string, unknown]) => {
      if (typeof part !== 'string') return [key, valueRenamed(part, ids)];
      if (key === 'signal') return [key, signalRenamed(part, ids)];
      if (key === 'picture' || key === 'outline') return [key, either(ids, shown(), part)];
      if (key === 'swarm') return [key, either(ids, ['swarms'], part)];
      return [key, key === 'text' ? textRenamed(part, ids) : part];
    }),
  );
}

function textRenamed(text: string, ids: NewIds): string {
  const signals = withNamesOf(text, 'signal', (name) => signalRenamed(name, ids));
  return withNamesOf(signals, 'map', (id) => either(ids, shown(), id));
}
