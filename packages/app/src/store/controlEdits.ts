import {
  addressOf,
  calledName,
  freeName,
  freshIdIn,
  holderOf,
  kindFor,
  makePart,
  movesOf,
  placeNamed,
  type Piece,
  type Place,
} from '@vast-swarm/core/piece';
import {
  isGradient,
  rangeOf,
  type DialValue,
  type Move,
  type NumberFeed,
} from '@vast-swarm/core/feeds';
import type { DialValues } from '@vast-swarm/core/kinds';
import { valueAt, type Path } from './pieceEdits';

/** Changes of a piece's controls; they change the piece they are given. */

/** A range for a fader about what a dial is, within what the dial can be. */
function reachOf(value: DialValue, { min, max }: { min: number; max: number }): [number, number] {
  const feed = value as NumberFeed;
  const [from, to] = rangeOf(feed);
  if (from !== to) return [from, to];
  if (from === 0) return [Math.max(min, min < 0 ? -1 : 0), Math.min(max, 1)];
  return from > 0
    ? [Math.max(min, 0), Math.min(max, 2 * from)]
    : [Math.max(min, 2 * from), Math.min(max, 0)];
}

/** A move of a control at a place: a fader moves it in a range about its value. */
function moveOf(address: string, { spec }: Place, value: unknown): Move {
  if (spec === 'on' || (spec.type !== 'number' && spec.type !== 'vector')) {
    return { place: address };
  }
  const [from, to] = reachOf(value as DialValue, spec);
  return { place: address, from, to };
}

/** The dials of a new control for a place: it begins with what is there. */
function dialsFor({ spec }: Place, { from, to }: Move, value: unknown): DialValues {
  if (spec === 'on') return { rest: value === true ? 'on' : 'off' };
  if (spec.type === 'number' || spec.type === 'vector') {
    const [low, high] = rangeOf(value as NumberFeed);
    return { low: from!, high: to!, rest: (low + high) / 2, unit: spec.unit };
  }
  if (spec.type !== 'colour') return { rest: value as string };
  const feed = value as DialValue;
  if (isGradient(feed)) return { rest: feed.stops };
  return typeof feed === 'string' ? { rest: feed } : {};
}

/** The kind of control that what stands at a place goes with best. */
export function kindOfControl({ spec }: Place, value: unknown): string | null {
  const isStops = spec !== 'on' && spec.type === 'colour' && isGradient(value as DialValue);
  return isStops ? 'gradient' : kindFor(spec);
}

/** Puts what stands at a path forward, under a control that there is or a new one, where that can be. */
export function putForward(piece: Piece, path: Path, known?: string): void {
  const address = addressOf(piece, path);
  if (address === null || holderOf(piece, address)) return;
  const place = placeNamed(piece, address);
  const value = valueAt(piece, path);
  const move = moveOf(address, place, value);
  const there = piece.controls.find((c) => c.id === known);
  if (there) {
    there.dials.moves = [...movesOf(there), move];
    return;
  }
  const kind = kindOfControl(place, value);
  if (kind === null) return;
  const control = makePart('controls', kind, piece.controls);
  Object.assign(control.dials, dialsFor(place, move, value), { moves: [move] });
  control.name = freeName(piece, place.spec === 'on' ? place.part : `${place.part} ${place.title}`);
  control.id = freshIdIn(piece, 'controls', calledName(control.name).slice(0, 40));
  piece.controls.push(control);
}

/** Lets a control hold a place no longer. */
export function takeBack(piece: Piece, place: string): void {
  const control = holderOf(piece, place);
  if (control) control.dials.moves = movesOf(control).filter((m) => m.place !== place);
}
