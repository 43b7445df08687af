import { kindOf } from '../sections';
import { formulaSignals } from '../formula/parse';
import type { Part, Piece } from './types';
import { dialsOf, signalsIn, type DialPlace } from './walk';

/** Chains of signals: the sources of each, and those that are made from it. */

/** The id of the signal that a name of it, or of one of its parts, belongs to. */
export function signalId(name: string): string {
  return name.replace(/\.\d+$/, '');
}

/** Most parts that a signal has. */
const MOST_PARTS = 8;

/** All names that a signal may be called by: of parts that it has none of, it is 0. */
export function namesOf({ id, kind }: Part): string[] {
  if (!kindOf('signals', kind).parts) return [id];
  return [id, ...Array.from({ length: MOST_PARTS }, (_, i) => `${id}.${String(i + 1)}`)];
}

/** Controls that hold a number, which is a signal too; a switch is 1 or 0. */
export function numberControls(piece: Piece): Part[] {
  return piece.controls.filter(({ kind }) =>
    ['number', 'switch'].includes(kindOf('controls', kind).holds),
  );
}

/** Names of all that signals of a piece offer: those of several parts are `id.1`, `id.2` and so on. */
export function signalNames(piece: Piece): { id: string; name: string }[] {
  const signals = piece.signals.flatMap(({ id, name, kind, dials }) => {
    const parts = kindOf('signals', kind).parts?.(dials) ?? 1;
    if (parts === 1) return [{ id, name }];
    return Array.from({ length: parts }, (_, i) => {
      const n = String(i + 1);
      return { id: `${id}.${n}`, name: `${name} ${n}` };
    });
  });
  return [...signals, ...numberControls(piece).map(({ id, name }) => ({ id, name }))];
}

/** The parts that a signal names in its dials: other signals, sounds, or performers. */
export function sourcesOf(part: Part, of: string): string[] {
  const named = Object.entries(kindOf('signals', part.kind).dials).flatMap(([key, spec]) => {
    const value = part.dials[key];
    if (typeof value !== 'string') return [];
    if (spec.type === 'part' && spec.of === of && value) return [signalId(value)];
    return spec.type === 'formula' && of === 'signals' ? formulaSignals(value).map(signalId) : [];
  });
  return [...new Set(named)];
}

/** All signals that those of these names are made from, with themselves, in the order of the piece. */
export function chainOf(piece: Piece, names: Iterable<string>): Part[] {
  const found = new Set<string>();
  const visit = (id: string): void => {
    if (found.has(id)) return;
    found.add(id);
    const part = piece.signals.find((s) => s.id === id);
    if (part) sourcesOf(part, 'signals').forEach(visit);
  };
  for (const name of names) visit(signalId(name));
  return piece.signals.filter((s) => found.has(s.id));
}

/** The dials that a signal, or a part of it, feeds: those of other signals too. */
export function fedBy(piece: Piece, id: string): DialPlace[] {
  return [...dialsOf(piece)].filter(({ spec, value }) => {
    const names = signalsIn(value);
    if (spec.type === 'part' && spec.of === 'signals') names.add(value as string);
    if (spec.type === 'formula') formulaSignals(value as string).forEach((name) => names.add(name));
    return [...names].some((name) => signalId(name) === id);
  });
}

/** A loop that a signal stands in, by ids from itself to itself; null where there is none. */
export function loopThrough(piece: Piece, id: string): string[] | null {
  const walk = (at: string, way: string[]): string[] | null => {
    const part = piece.signals.find((s) => s.id === at);
    for (const next of part ? sourcesOf(part, 'signals') : []) {
      if (next === id) return [...way, id];
      if (way.includes(next)) continue;
      const loop = walk(next, [...way, next]);
      if (loop) return loop;
    }
    return null;
  };
  return walk(id, [id]);
}
