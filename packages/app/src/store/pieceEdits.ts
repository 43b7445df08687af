import {
  catalogue,
  kindOf,
  namedWith,
  sectionOf,
  type Dials,
  type DialValues,
} from '@vast-swarm/core/kinds';
import {
  dialsOf,
  exactRate,
  freshName,
  fedBy,
  inEffect,
  mapsIn,
  newPart,
  ownSection,
  partsIn,
  signalId,
  signalsIn,
  type Part,
  type PartList,
  type Piece,
  type Swarm,
} from '@vast-swarm/core/piece';
import { isLayers, mapOf, formulaWith, type DialValue } from '@vast-swarm/core/feeds';
import type { StockEntry } from '@vast-swarm/core/stock';

/** Changes of a piece that keep its parts fitting together; they change the piece they are given. */

export type Path = (string | number)[];
export type Tree = Record<string | number, unknown>;

/** A change to a follower makes what is changed its own, beginning with what it had so far. */
export function makeOwn(piece: Piece, path: Path): void {
  const section = ownSection(path);
  const swarm = section === null ? undefined : piece.swarms[path[1] as number];
  if (!swarm?.follows || swarm.own?.includes(section!)) return;
  const plain = JSON.parse(JSON.stringify(inEffect(piece, swarm))) as Swarm;
  if (path[2] === 'dials') swarm.dials[section!] = plain.dials[section!]!;
  else Object.assign(swarm, { [section!]: plain[section as 'emitter'] });
  swarm.own = [...(swarm.own ?? []), section!];
}

/** The value at a path. */
export function valueAt(piece: Piece, path: Readonly<Path>): unknown {
  return path.reduce<unknown>((at, key) => (at as Tree)[key], piece);
}

export function put(piece: Piece, path: Path, value: unknown): void {
  let place = piece as unknown as Tree;
  for (const key of path.slice(0, -1)) {
    place[key] ??= {};
    place = place[key] as Tree;
  }
  // What is typed of a rate has few digits.
  const rate = path.join('.') === 'frame.rate' && typeof value === 'number';
  place[path.at(-1)!] = rate ? exactRate(value) : value;
}

/** Puts a value at a path; what a follower had from another swarm there is its own from now on. */
export function putOwn(piece: Piece, path: Path, value: unknown): void {
  makeOwn(piece, path);
  put(piece, path, value);
}

/** A value without a signal that is gone: the fixed value the signal led up to. */
function withoutSignal(value: unknown, signal: string): unknown {
  if (Array.isArray(value)) return value.map((v) => withoutSignal(v, signal));
  if (typeof value !== 'object' || value === null) return value;
  if ('layers' in value) return { ...value, layers: withoutSignal(value.layers, signal) };
  if (!('signal' in value)) {
    if (!('text' in value) || typeof value.text !== 'string') return value;
    return { ...value, text: formulaWith(value.text, 'signal', signal, '0') };
  }
  if (signalId(String(value.signal)) !== signal) return value;
  // A layer of colours goes without: it counts as 0 then.
  if (!('feed' in value)) return { ...value, signal: undefined };
  if (value.feed === 'gradient') return { ...value, by: 'life', signal: undefined };
  return 'to' in value ? value.to : value;
}

/** A value whose formulas find nothing in a picture that is gone. */
function withoutMap(value: DialValue, picture: string): DialValue {
  return JSON.parse(JSON.stringify(value), (key, part: unknown) =>
    key === 'text' ? formulaWith(String(part), 'map', picture, '0') : part,
  ) as DialValue;
}

/** A value with another signal, or part of one, in place of a signal. */
function withOther(value: unknown, signal: string, other: string): unknown {
  if (Array.isArray(value)) return value.map((v) => withOther(v, signal, other));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, part]: [string, unknown]) => {
      if (key === 'signal' && signalId(String(part)) === signal) return [key, other];
      if (key === 'text')
        return [key, formulaWith(String(part), 'signal', signal, `signal('${other}')`)];
      return [key, withOther(part, signal, other)];
    }),
  );
}

/** Lets dials that a signal feeds follow another one. */
export function followOther(
  piece: Piece,
  paths: readonly Path[],
  signal: string,
  other: string,
): void {
  const wanted = new Set(paths.map((path) => path.join('.')));
  for (const { spec, value, path } of fedBy(piece, signal)) {
    if (!wanted.has(path.join('.'))) continue;
    if (spec.type === 'part') put(piece, path, other);
    else if (spec.type === 'formula')
      put(piece, path, formulaWith(value as string, 'signal', signal, `signal('${other}')`));
    else put(piece, path, withOther(JSON.parse(JSON.stringify(value)), signal, other));
  }
}

/**
 * Lets a clip or a motion of the stock play in a piece, and takes it in where it is not there yet; gives the id of what
 * plays it.
 */
export function playEntry(piece: Piece, entry: StockEntry): string {
  if (!piece.stock.some((s) => s.id === entry.id)) piece.stock.push(entry);
  const list = entry.type === 'motion' ? 'performers' : 'pictures';
  const { kind, plays } = catalogue[list].find((k) => k.plays !== undefined)!;
  const part = newPart(piece, list, kind);
  part.name = freshName(entry.name, piece[list]);
  part.dials[plays!] = entry.id;
  piece[list].push(part);
  return part.id;
}

const POINTED = {
  across: { name: 'Pointer across', dial: 'handX', from: -1 },
  up: { name: 'Pointer up', dial: 'handY', from: -1 },
  held: { name: 'Pointer held', dial: 'hand', from: 0 },
} as const;

/** Lets the hand of a medium follow the pointer's signals, which are made where there are none. */
export function followPointer(piece: Piece, medium: string): void {
  const part = piece.media.find((m) => m.id === medium);
  if (!part) return;
  for (const [tells, { name, dial, from }] of Object.entries(POINTED)) {
    const points = ({ kind, dials }: Part): unknown => kindOf('signals', kind).points?.(dials);
    let signal = piece.signals.find((s) => points(s) === tells);
    if (!signal) {
      signal = newPart(piece, 'signals', 'pointer');
      Object.assign(signal, { name: freshName(name, piece.signals) });
      signal.dials.tells = tells;
      piece.signals.push(signal);
    }
    part.dials[dial] = { feed: 'signal', signal: signal.id, from, to: 1 };
  }
}

/** Where the dials are that name a performer. */
export function readersOf(piece: Piece, performer: string): Path[] {
  const all = [...dialsOf(piece)].filter(
    ({ spec, value }) => spec.type === 'part' && spec.of === 'performers' && value === performer,
  );
  return all.map(({ path }) => path);
}

/** Dials that name a performer or a medium, and have none yet, take the last one of the piece; see Section. */
export function castLast(piece: Piece, specs: Dials, dials: DialValues): void {
  for (const [key, spec] of Object.entries(specs)) {
    if (spec.type !== 'part' || sectionOf(spec.of as PartList).dialled !== 'last') continue;
    if (dials[key] === '') dials[key] = partsIn(piece, spec.of).at(-1)?.id ?? '';
  }
}

/** A new signal hears the sound that is selected, or the last, as it follows a performer; it hangs on the signal that is selected. */
export function listen(
  piece: Piece,
  part: Part,
  selected: { list: string; id: string } | null,
): void {
  const chosen = (list: string): string => (selected?.list === list ? selected.id : '');
  const dials = Object.entries(kindOf('signals', part.kind).dials);
  // Only what it is made from above all: the first.
  const [key, spec] = dials.find(([, { type }]) => type === 'part') ?? [];
  if (key === undefined || spec?.type !== 'part') return;
  const last = spec.of === 'signals' ? '' : (partsIn(piece, spec.of).at(-1)?.id ?? '');
  part.dials[key] = chosen(spec.of) || last;
}

/** Clears away what names a part that is gone. */
export function forget(piece: Piece, list: PartList, id: string): void {
  const without = <T>(row: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(row).filter(([key]) => key !== id));
  const { influence, names = [] } = sectionOf(list);
  if (influence === 'felt') piece.influence = without(piece.influence);
  if (influence === 'feels') {
    for (const part of Object.keys(piece.influence)) {
      piece.influence[part] = without(piece.influence[part]!);
    }
  }
  const [shown, signals] = [names.includes('shown'), names.includes('numbers')];
  for (const { spec, value, path } of [...dialsOf(piece)]) {
    if (list === 'swarms' && spec.type === 'swarm' && value === id) put(piece, path, '');
    if (shown && mapOf(value)?.picture === id) {
      put(piece, path, { ...(value as object), picture: undefined });
    }
    if (shown && 'moving' in spec && value === id) put(piece, path, '');
    if (shown && mapsIn(value).has(id)) put(piece, path, withoutMap(value, id));
    const source = list === 'swarms' ? 'swarm' : list === 'pictures' ? 'picture' : null;
    if (source && isLayers(value)) {
      const layers = value.layers.map((l) =>
        l[source] === id ? { ...l, [source]: undefined } : l,
      );
      put(piece, path, { ...value, layers });
    }
    // A control is named as a signal is.
    const named = spec.type === 'part' && namedWith(spec.of as PartList).includes(list);
    if (named && signalId(value as string) === id) put(piece, path, '');
    if (signals && spec.type === 'formula') {
      put(piece, path, formulaWith(value as string, 'signal', id, '0'));
    }
    if (signals && [...signalsIn(value)].some((name) => signalId(name) === id)) {
      put(piece, path, withoutSignal(JSON.parse(JSON.stringify(value)), id));
    }
  }
}

/** Followers of a swarm that goes keep what they had from it. */
export function freeFollowers(piece: Piece, leader: string): void {
  piece.swarms.forEach((swarm, i) => {
    if (swarm.follows === leader) piece.swarms[i] = freed(piece, swarm);
  });
}

export function freed(piece: Piece, swarm: Swarm): Swarm {
  const whole = JSON.parse(JSON.stringify(inEffect(piece, swarm))) as Swarm;
  delete whole.follows;
  delete whole.own;
  return whole;
}
