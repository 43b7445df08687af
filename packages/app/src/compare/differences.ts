import equal from 'fast-deep-equal';
import { dialsOf, PART_LISTS, type DialValue, type Piece } from '@vast-swarm/core';

/** A dial, or a whole part, in which two versions differ. */
export interface Difference {
  key: string;
  /** Which part, and which of its dials. */
  title: string;
  /** What stands here and there, in short; null: the part is not there at all. */
  here: string | null;
  there: string | null;
  /** What taking it over changes. */
  change: { path: (string | number)[]; value: unknown };
}

interface Place {
  title: string;
  value: DialValue;
  path: (string | number)[];
}

/** Dials by a key that goes by ids, so that a part that was moved is still the same. */
function dialMap(piece: Piece): Map<string, Place> {
  const found = new Map<string, Place>();
  for (const { spec, value, path } of dialsOf(piece)) {
    const names: string[] = [];
    const key = path.map((step, i) => {
      if (typeof step !== 'number') return step;
      const list = path
        .slice(0, i)
        .reduce<unknown>((place, k) => (place as Record<string | number, unknown>)[k], piece);
      const part = (list as { id: string; name: string }[])[step]!;
      names.push(part.name);
      return part.id;
    });
    const section = names.length > 0 ? names.join(', ') : String(path[0]);
    found.set(key.join('/'), { title: `${section}: ${spec.title}`, value, path });
  }
  return found;
}

function short(value: unknown): string {
  if (typeof value === 'object' && value !== null && 'feed' in value) {
    const { feed } = value;
    if ('from' in value && 'to' in value)
      return `${String(feed)} ${String(value.from)}–${String(value.to)}`;
    return 'value' in value ? `${String(value.value)}, shaped` : String(feed);
  }
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 28 ? `${text.slice(0, 27)}…` : text;
}

/**
 * The change with what its value names and is not here yet: signals and things of the stock. Null
 * where it names a swarm that is not here.
 */
export function withNeeds(
  here: Piece,
  there: Piece,
  { path, value }: Difference['change'],
): Difference['change'][] | null {
  const text = JSON.stringify(value);
  const missing = <T extends { id: string }>(own: readonly T[], other: readonly T[]): T[] =>
    other.filter((o) => text.includes(`"${o.id}"`) && !own.some((h) => h.id === o.id));
  // A swarm that is taken over names itself.
  const taken = path.length === 1 ? (value as { id: string }[]) : [];
  const strangers = missing<{ id: string }>([...here.swarms, ...taken], there.swarms);
  if (strangers.length > 0) return null;
  const changes: Difference['change'][] = [];
  for (const list of ['sounds', 'signals', 'stock'] as const) {
    const needed = missing<{ id: string }>(here[list], there[list]);
    if (needed.length > 0) changes.push({ path: [list], value: [...here[list], ...needed] });
  }
  return [...changes, { path, value }];
}

/** Where `there` differs from `here`, in the order of the file. */
export function differences(here: Piece, there: Piece): Difference[] {
  const found: Difference[] = [];
  const [own, other] = [dialMap(here), dialMap(there)];
  for (const [key, { title, value, path }] of own) {
    const match = other.get(key);
    if (!match || equal(match.value, value)) continue;
    const change = { path, value: match.value };
    found.push({ key, title, here: short(value), there: short(match.value), change });
  }
  for (const list of ['swarms', ...PART_LISTS] as const) {
    const parts = here[list] as { id: string }[];
    for (const part of there[list] as { id: string; name: string }[]) {
      if (parts.some((p) => p.id === part.id)) continue;
      const change = { path: [list], value: [...parts, part] };
      found.push({
        key: `${list}/${part.id}`,
        title: part.name,
        here: null,
        there: 'only there',
        change,
      });
    }
  }
  for (const key of ['frame', 'seed', 'density'] as const) {
    if (equal(here[key], there[key])) continue;
    const change = { path: [key], value: there[key] };
    found.push({ key, title: key, here: short(here[key]), there: short(there[key]), change });
  }
  return found;
}
