import { kindOf, type Shelf } from '../sections';
import type { DialSpec, Dials, DialValues } from '../language/dials';
import { isLayers, mapOf, type DialValue } from '../feeds/feeds';
import type { Mask } from '../feeds/mask';
import { swarmDials } from '../sections/swarms/swarmDials';
import { formulaMaps, formulaSignals } from '../formula/parse';
import { PART_LISTS, type Choice, type Part, type PartList, type Piece } from './types';

export interface DialPlace {
  spec: DialSpec;
  value: DialValue;
  /** Where the value stands in the piece. */
  path: (string | number)[];
}

/** The parts of a list, as a dial calls it; none where there is no such list. */
export function partsIn(piece: Piece, list: string): readonly Pick<Part, 'id' | 'name' | 'on'>[] {
  return list in piece ? piece[list as PartList] : [];
}

/** Every dial of a piece, in the order of its file. */
export function* dialsOf(piece: Piece): Generator<DialPlace> {
  function* each(
    specs: Dials,
    values: DialValues,
    path: (string | number)[],
  ): Generator<DialPlace> {
    for (const [key, spec] of Object.entries(specs)) {
      const value = values[key];
      if (value !== undefined) yield { spec, value, path: [...path, 'dials', key] };
    }
  }
  const choice = (shelf: Shelf, { kind, dials }: Choice, path: (string | number)[]) =>
    each(kindOf(shelf, kind).dials, dials, path);
  yield* choice('backdrops', piece.backdrop, ['backdrop']);
  yield* choice('cameras', piece.camera, ['camera']);
  for (const [i, swarm] of piece.swarms.entries()) {
    yield* choice('emitters', swarm.emitter, ['swarms', i, 'emitter']);
    yield* choice('launches', swarm.launch, ['swarms', i, 'launch']);
    for (const [k, body] of swarm.bodies.entries()) {
      yield* choice('bodies', body, ['swarms', i, 'bodies', k]);
    }
    yield* each(swarmDials, swarm.dials, ['swarms', i]);
  }
  for (const list of PART_LISTS) {
    for (const [i, part] of piece[list].entries()) yield* choice(list, part, [list, i]);
  }
}

/** Puts a value where a dial stands; the piece is changed. */
export function putAt(piece: Piece, path: readonly (string | number)[], value: unknown): void {
  let at = piece as unknown as Record<string | number, unknown>;
  for (const key of path.slice(0, -1)) at = at[key] as typeof at;
  at[path.at(-1)!] = value;
}

/** Ids of the things of the stock that a dial names. */
export function stockNamed(spec: DialSpec, value: DialValue): string[] {
  if (spec.type === 'stocks') return value as string[];
  if (spec.type === 'mask') {
    return (value as unknown as Mask).flatMap((s) => (s.shape === 'outline' && s.outline) || []);
  }
  if (typeof value === 'object' && 'feed' in value) {
    const layers = isLayers(value) ? value.layers : [];
    const shown = layers.flatMap((l) => (l.by === 'picture' && l.picture) || []);
    return [...shown, mapOf(value)?.picture ?? '', ...mapsIn(value)].filter(Boolean);
  }
  return spec.type === 'stock' && value ? [value as string] : [];
}

/** Ids of the pictures that formulas read, however deep in a value. */
export function mapsIn(value: unknown, found = new Set<string>()): Set<string> {
  if (typeof value !== 'object' || value === null) return found;
  if ('text' in value && typeof value.text === 'string') {
    formulaMaps(value.text).forEach((id) => found.add(id));
  }
  Object.values(value).forEach((v) => mapsIn(v, found));
  return found;
}

/** Ids of the signals that feed a value, however deep in it. */
export function signalsIn(value: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(value)) value.forEach((v) => signalsIn(v, found));
  else if (typeof value === 'object' && value !== null) {
    if ('signal' in value && typeof value.signal === 'string') found.add(value.signal);
    if ('text' in value && typeof value.text === 'string') {
      formulaSignals(value.text).forEach((id) => found.add(id));
    }
    Object.values(value).forEach((v) => signalsIn(v, found));
  }
  return found;
}
