import equal from 'fast-deep-equal';
import {
  dialsOf,
  partsThat,
  PART_LISTS,
  type Part,
  type PartList,
  type Piece,
  type Swarm,
} from '@vast-swarm/core/piece';
import { listsWhere } from '@vast-swarm/core/kinds';
import type { DialValue } from '@vast-swarm/core/feeds';

/** The change that takes a difference over: a value is put in a place, or a part goes. */
export type Change =
  { path: (string | number)[]; value: unknown } | { remove: { list: PartList; id: string } };

/** A dial, or a whole part, in which two versions differ. */
export interface Difference {
  key: string;
  /** Which part, and which of its dials. */
  title: string;
  /** The values here and there, in short; null: the part is not there at all. */
  here: string | null;
  there: string | null;
  change: Change;
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

/** Lists whose parts are named by dials of others. */
const named = (): (PartList | 'stock')[] => [
  ...listsWhere((s) => s.dialled !== undefined),
  'stock',
];

/** The change with what its value names and is not here yet, and what that names in turn. */
export function withNeeds(here: Piece, there: Piece, change: Change): Change[] {
  if ('remove' in change) return [change];
  const { path, value } = change;
  // The lists as they will be; one that is taken over has what it has.
  const own = path.length === 1 ? path[0] : undefined;
  const lists = new Map(
    named().map((list) => [list, [...((list === own ? value : here[list]) as { id: string }[])]]),
  );
  let text = JSON.stringify(value);
  for (let more = true; more;) {
    more = false;
    for (const [list, parts] of lists) {
      const missing = (there[list] as { id: string }[]).filter(
        (o) => text.includes(`"${o.id}"`) && !parts.some((p) => p.id === o.id),
      );
      if (missing.length === 0) continue;
      parts.push(...missing);
      text += JSON.stringify(missing);
      more = true;
    }
  }
  const needs = [...lists].filter(
    ([list, { length }]) => list !== own && length > here[list].length,
  );
  const whole = lists.get(own as PartList | 'stock') ?? value;
  return [
    ...needs.map(([list, parts]) => ({ path: [list], value: parts })),
    { path, value: whole },
  ];
}

type Found = (key: string, title: string, own: unknown, other: unknown, change: Change) => void;

/** Differences of two parts of one id, beside their dials; true where their dials have nothing in common. */
function partDiffers(list: PartList, at: number, own: Part, other: Part, found: Found): boolean {
  const key = `${list}/${own.id}`;
  if (own.kind !== other.kind) {
    found(key, own.name, own.kind, other.kind, { path: [list, at], value: other });
    return true;
  }
  for (const field of ['name', 'on'] as const) {
    if (own[field] === other[field]) continue;
    const change = { path: [list, at, field], value: other[field] };
    found(`${key}/${field}`, `${own.name}: ${field}`, own[field], other[field], change);
  }
  return false;
}

/** The same of two swarms: the beginnings of the keys of those dials that have nothing in common. */
function swarmDiffers(at: number, own: Swarm, other: Swarm, found: Found): string[] {
  const key = `swarms/${own.id}`;
  const apart: string[] = [];
  const whole = (field: keyof Swarm, here: unknown, there: unknown): void => {
    const change = { path: ['swarms', at, field], value: other[field] };
    found(`${key}/${field}`, `${own.name}: ${field}`, here, there, change);
  };
  for (const field of ['name', 'on', 'follows', 'own', 'copies'] as const) {
    if (!equal(own[field], other[field]))
      whole(field, own[field] ?? 'none', other[field] ?? 'none');
  }
  for (const field of ['emitter', 'launch'] as const) {
    if (own[field].kind === other[field].kind) continue;
    whole(field, own[field].kind, other[field].kind);
    apart.push(`${key}/${field}/`);
  }
  const bodies = (s: Swarm): string =>
    s.bodies.map(({ id, kind, name, on }) => `${id} ${kind} ${name} ${String(on)}`).join();
  if (bodies(own) !== bodies(other)) {
    const names = (s: Swarm): string => s.bodies.map((b) => b.name).join(', ') || 'none';
    whole('bodies', names(own), names(other));
    apart.push(`${key}/bodies/`);
  }
  return apart;
}

/** Parts that are in one of the two alone, and what parts of both differ in beside their dials. */
function listDiffers(here: Piece, there: Piece, list: PartList, found: Found): string[] {
  const [parts, others] = [here[list] as Part[], there[list] as Part[]];
  const apart: string[] = [];
  // Parts of several lists may have one name.
  const called = ({ name }: Part): string => `${list[0]!.toUpperCase()}${list.slice(1)}: ${name}`;
  for (const [at, part] of parts.entries()) {
    const other = others.find((o) => o.id === part.id);
    if (!other) {
      const change = { remove: { list, id: part.id } };
      found(`${list}/${part.id}`, called(part), 'only here', null, change);
    } else if (list === 'swarms') {
      apart.push(...swarmDiffers(at, here.swarms[at]!, other as unknown as Swarm, found));
    } else if (partDiffers(list, at, part, other, found)) apart.push(`${list}/${part.id}/`);
  }
  for (const part of others) {
    if (parts.some((p) => p.id === part.id)) continue;
    const change = { path: [list], value: [...parts, part] };
    found(`${list}/${part.id}`, called(part), null, 'only there', change);
  }
  // Drawn, or applied, one over the other.
  const ordered = others.flatMap((o) => parts.filter((p) => p.id === o.id));
  const same = ordered.length === parts.length && parts.length === others.length;
  if (same && ordered.some((p, i) => p !== parts[i])) {
    const names = (all: readonly Part[]): string => all.map((p) => p.name).join(', ');
    const change = { path: [list], value: ordered };
    found(`${list}/order`, `Order of ${list}`, names(parts), names(others), change);
  }
  return apart;
}

/** How much forces and colliders are felt, where both versions have them and who feels them. */
function influenceDiffers(here: Piece, there: Piece, found: Found): void {
  const both = (side: 'felt' | 'feels') =>
    partsThat(here, side).filter(({ id }) => partsThat(there, side).some((t) => t.id === id));
  for (const { id, name } of both('felt')) {
    for (const to of both('feels')) {
      const [own, other] = [here, there].map((p) => p.influence[id]?.[to.id] ?? 1);
      if (own === other) continue;
      const value = { ...here.influence[id], [to.id]: other };
      const change = { path: ['influence', id], value };
      found(`influence/${id}/${to.id}`, `${name} on ${to.name}`, own, other, change);
    }
  }
}

/** Where `there` differs from `here`, in the order of the file: with all of it taken over they are equal. */
export function differences(here: Piece, there: Piece): Difference[] {
  const all: Difference[] = [];
  const found: Found = (key, title, own, other, change) => {
    const [shown, shownThere] = [own, other].map((v) => (v === null ? null : short(v)));
    all.push({ key, title, here: shown!, there: shownThere!, change });
  };
  const apart: string[] = [];
  for (const list of ['swarms', ...PART_LISTS] as const) {
    apart.push(...listDiffers(here, there, list, found));
  }
  for (const holder of ['backdrop', 'camera'] as const) {
    const [own, other] = [here[holder], there[holder]];
    if (own.kind === other.kind) continue;
    found(holder, holder, own.kind, other.kind, { path: [holder], value: other });
    apart.push(`${holder}/`);
  }
  const others = dialMap(there);
  for (const [key, { title, value, path }] of dialMap(here)) {
    const match = others.get(key);
    if (!match || equal(match.value, value) || apart.some((a) => key.startsWith(a))) continue;
    found(key, title, value, match.value, { path, value: match.value });
  }
  influenceDiffers(here, there, found);
  for (const key of ['name', 'frame', 'seed', 'density', 'played'] as const) {
    if (equal(here[key], there[key])) continue;
    found(key, key, here[key], there[key], { path: [key], value: there[key] });
  }
  return all;
}
