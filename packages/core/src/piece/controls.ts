import { kindOf } from '../catalogue';
import type { ControlKind } from '../catalogue/kinds';
import type { ControlValue, Move, Moves, Sets, Bursts } from '../feeds/control';
import { canHold, NoPlace, placeNamed, type Place } from './places';
import type { Part, Piece } from './types';

/** What a control is called from outside: small letters, and hyphens for what is between words. */
export function calledName(name: string): string {
  return name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, '-');
}

const NAME = /^[A-Za-z][A-Za-z0-9 _-]{0,59}$/;

/** What is wrong with the name of a control or a cue, in words; null where it is right. */
export function nameProblem(piece: Piece, id: string, name: string): string | null {
  if (!NAME.test(name)) {
    return 'a name of a control or a cue begins with a letter and has 60 letters (a to z), digits, spaces, - and _ at the most: it is called by it from outside';
  }
  const other = [...piece.controls, ...piece.cues].find(
    (p) => p.id !== id && calledName(p.name) === calledName(name),
  );
  return other ? `'${other.name}' is called so already; names of controls and cues differ` : null;
}

export function controlKind(part: Part): ControlKind {
  return kindOf('controls', part.kind);
}

export function movesOf(control: Part): Moves {
  return control.dials.moves as Moves;
}

/** What a control is until something sets it. */
export function restOf(control: Part): ControlValue {
  return controlKind(control).rest(control.dials as never);
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
  if (holds === 'colour') return typeof value === 'string' && /^#[0-9a-fA-F]{6}$/.test(value);
  return typeof value === 'string';
}

/** A value as a control takes it: numbers within its range. */
export function within(control: Part, value: ControlValue): ControlValue {
  const range = controlKind(control).range?.(control.dials as never);
  if (!range || typeof value !== 'number') return value;
  return Math.min(range[1], Math.max(range[0], value));
}

/** Takes out of a piece what controls and cues name that is not there (any more); changes the piece it is given. */
export function tidyControls(piece: Piece): void {
  const held = new Set<string>();
  for (const control of piece.controls) {
    const moves = movesOf(control);
    const kept = moves.filter((move) => {
      if (held.has(move.place) || !heldPlace(piece, control, move)) return false;
      held.add(move.place);
      return true;
    });
    if (kept.length < moves.length) control.dials.moves = kept;
  }
  const control = (id: string): Part | undefined => piece.controls.find((c) => c.id === id);
  for (const { dials } of piece.cues) {
    const [sets, bursts] = [dials.sets as Sets, dials.bursts as Bursts];
    const right = sets.filter((s) => {
      const set = control(s.control);
      return set !== undefined && suits(set, s.to);
    });
    if (right.length < sets.length) dials.sets = right;
    const born = bursts.filter((b) => piece.swarms.some((s) => s.id === b.swarm));
    if (born.length < bursts.length) dials.bursts = born;
  }
  const there = piece.played.filter((p) => {
    if ('cue' in p) return piece.cues.some((c) => c.id === p.cue);
    const set = control(p.control);
    return set !== undefined && suits(set, p.to);
  });
  if (there.length < piece.played.length) piece.played = there;
}

interface ControlProblem {
  path: (string | number)[];
  message: string;
}

/** What is wrong with controls and cues of a piece: names, and what they name. */
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
    if (!control) add(path, `there is no control '${id}'; ${named(piece.controls)}`);
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
      add(['played', i, 'cue'], `there is no cue '${p.cue}'; ${named(piece.cues)}`);
    }
  });
  return problems;
}

function named(parts: readonly Part[]): string {
  return parts.length > 0 ? `there are ${parts.map((p) => p.id).join(', ')}` : 'there are none';
}
