import { kindOf } from '../sections';
import type { ControlKind } from '../sections/kinds';
import {
  isHex,
  type ControlValue,
  type Move,
  type Moves,
  type Sets,
  type Bursts,
} from '../feeds/control';
import { canHold, NoPlace, placeNamed, type Place } from './places';
import { thereAre } from './thereAre';
import type { Part, Piece } from './types';

/** The name of a control outside: small letters, and hyphens between words. */
export function calledName(name: string): string {
  return name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, '-');
}

const NAME = /^[A-Za-z][A-Za-z0-9 _-]{0,59}$/;

/** The fault of a name of a control or a cue, in words; null where it is right. */
export function nameProblem(piece: Piece, id: string, name: string): string | null {
  if (!NAME.test(name)) {
    return 'a name of a control or a cue begins with a letter and has 60 letters (a to z), digits, spaces, - and _ at the most: it is called by it from outside';
  }
  const other = [...piece.controls, ...piece.cues].find(
    (p) => p.id !== id && calledName(p.name) === calledName(name),
  );
  return other ? `'${other.name}' is called so already; names of controls and cues differ` : null;
}

/** A name that neither a control nor a cue has, of letters that it can be called by. */
export function freeName(piece: Piece, wanted: string): string {
  const plain = wanted
    .normalize('NFD')
    .replace(/[^A-Za-z0-9 _-]/g, '')
    .replace(/^[^A-Za-z]+/, '')
    .trim()
    .slice(0, 50);
  const base = plain || 'Control';
  const taken = new Set([...piece.controls, ...piece.cues].map((p) => calledName(p.name)));
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${String(n)}`;
    if (!taken.has(calledName(name))) return name;
  }
}

/** The cue below another, of those that are on; the first where none is said. */
export function cueBehind(cues: readonly Part[], id: string | null): Part | undefined {
  const on = cues.filter((c) => c.on);
  return on[on.findIndex((c) => c.id === id) + 1];
}

export function controlKind(part: Part): ControlKind {
  return kindOf('controls', part.kind);
}

export function movesOf(control: Part): Moves {
  return control.dials.moves as Moves;
}

/** The value of a control until something sets it. */
export function restOf(control: Part): ControlValue {
  return controlKind(control).rest(control.dials);
}

/** The place that a move of a control is about; null where there is none that it could hold. */
export function heldPlace(piece: Piece, control: Part, move: Move): Place | null {
  try {
    const place = placeNamed(piece, move.place);
    return canHold(controlKind(control).holds, place.spec) ? place : null;
  } catch (error) {
    if (error instanceof NoPlace) return null;
    throw error;
  }
}

/** The control that holds a place; undefined where none does. */
export function holderOf(piece: Piece, address: string): Part | undefined {
  return piece.controls.find((c) => movesOf(c).some((m) => m.place === address));
}

/** Whether a value is of the sort that a control is set to. */
export function suits(control: Part, value: ControlValue): boolean {
  const { holds } = controlKind(control);
  if (holds === 'number') return typeof value === 'number';
  if (holds === 'switch') return typeof value === 'boolean';
  if (holds === 'gradient') return Array.isArray(value);
  if (holds === 'colour') return isHex(value);
  return typeof value === 'string';
}

/** A value as a control takes it: numbers within its range. */
export function within(control: Part, value: ControlValue): ControlValue {
  const range = controlKind(control).range?.(control.dials);
  if (!range || typeof value !== 'number') return value;
  return Math.min(range[1], Math.max(range[0], value));
}

/** A list without what does not belong; the same list where all does. */
function without<T>(list: readonly T[], belongs: (item: T) => boolean): T[] {
  const kept = list.filter(belongs);
  return kept.length === list.length ? (list as T[]) : kept;
}

/** Parts with one of their dials changed; the same list where none is. */
function withDial<K extends string>(
  parts: Part[],
  key: K,
  change: (part: Part) => Part['dials'][K],
): Part[] {
  const changed = parts.map((part) => {
    const value = change(part);
    return value === part.dials[key] ? part : { ...part, dials: { ...part.dials, [key]: value } };
  });
  return changed.some((part, i) => part !== parts[i]) ? changed : parts;
}

/** A piece without what controls and cues name that is not there (any more); the same piece where all is. */
export function tidyControls(piece: Piece): Piece {
  const held = new Set<string>();
  const controls = withDial(piece.controls, 'moves', (control) =>
    without(movesOf(control), (move) => {
      if (held.has(move.place) || !heldPlace(piece, control, move)) return false;
      held.add(move.place);
      return true;
    }),
  );
  const there = new Map(controls.map((c) => [c.id, c]));
  const fits = ({ control, to }: { control: string; to: ControlValue }): boolean => {
    const part = there.get(control);
    return part !== undefined && suits(part, to);
  };
  const swarms = new Set(piece.swarms.map((s) => s.id));
  const sets = withDial(piece.cues, 'sets', ({ dials }) => without(dials.sets as Sets, fits));
  const cues = withDial(sets, 'bursts', ({ dials }) =>
    without(dials.bursts as Bursts, (b) => swarms.has(b.swarm)),
  );
  const fired = new Set(cues.map((c) => c.id));
  const played = without(piece.played, (p) => ('cue' in p ? fired.has(p.cue) : fits(p)));
  const same = controls === piece.controls && cues === piece.cues && played === piece.played;
  return same ? piece : { ...piece, controls, cues, played };
}

interface ControlProblem {
  path: (string | number)[];
  message: string;
}

/** Faults of controls and cues of a piece: their names, and the names they hold. */
export function controlProblems(piece: Piece): ControlProblem[] {
  const problems: ControlProblem[] = [];
  const add = (path: (string | number)[], message: string): void => {
    problems.push({ path, message });
  };
  for (const list of ['controls', 'cues'] as const) {
    piece[list].forEach(({ id, name }, i) => {
      const problem = nameProblem(piece, id, name);
      if (problem) add([list, i, 'name'], problem);
    });
  }
  const held = new Map<string, string>();
  piece.controls.forEach((control, i) => {
    movesOf(control).forEach(({ place }, k) => {
      const path = ['controls', i, 'dials', 'moves', k, 'place'];
      const holder = held.get(place);
      held.set(place, control.name);
      if (holder) add(path, `'${place}' is held by '${holder}' already; one control holds a dial`);
      try {
        const { holds } = controlKind(control);
        if (canHold(holds, placeNamed(piece, place).spec)) return;
        add(path, `a ${control.kind} cannot move '${place}'`);
      } catch (error) {
        if (!(error instanceof NoPlace)) throw error;
        add(path, error.message);
      }
    });
  });
  const setting = (id: string, to: ControlValue, path: (string | number)[]): void => {
    const control = piece.controls.find((c) => c.id === id);
    if (!control) add(path, `there is no control '${id}'; ${idsOf(piece.controls)}`);
    else if (!suits(control, to))
      add(path, `'${control.name}' is a ${control.kind}: it cannot be ${JSON.stringify(to)}`);
  };
  piece.cues.forEach(({ dials }, i) => {
    (dials.sets as Sets).forEach((s, k) => {
      setting(s.control, s.to, ['cues', i, 'dials', 'sets', k]);
    });
    (dials.bursts as Bursts).forEach(({ swarm }, k) => {
      if (piece.swarms.some((s) => s.id === swarm)) return;
      add(['cues', i, 'dials', 'bursts', k, 'swarm'], `there is no swarm '${swarm}'`);
    });
  });
  piece.played.forEach((p, i) => {
    if ('control' in p) setting(p.control, p.to, ['played', i]);
    else if (!piece.cues.some((c) => c.id === p.cue)) {
      add(['played', i, 'cue'], `there is no cue '${p.cue}'; ${idsOf(piece.cues)}`);
    }
  });
  return problems;
}

function idsOf(parts: readonly Part[]): string {
  return thereAre(parts.map((p) => p.id));
}
