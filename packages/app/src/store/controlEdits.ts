import {
  addressOf,
  calledName,
  freeName,
  freshIdIn,
  holderOf,
  isGradient,
  kindFor,
  makePart,
  movesOf,
  placeNamed,
  rangeOf,
  type ControlValue,
  type DialValue,
  type Move,
  type NumberFeed,
  type Part,
  type Piece,
  type Place,
} from '@vast-swarm/core';
import type { Path } from './pieceEdits';

/** Changes of a piece's controls; they change the piece they are given. */

function valueAt(piece: Piece, path: readonly (string | number)[]): unknown {
  return path.reduce<unknown>((at, key) => (at as Record<string | number, unknown>)[key], piece);
}

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

/** What a new control for a place is set up as: it begins with what is there. */
function setUp(control: Part, place: Place, value: unknown): Move | null {
  const { spec } = place;
  const address = { place: '' };
  if (spec === 'on') {
    control.dials.rest = value === true ? 'on' : 'off';
    return address;
  }
  if (spec.type === 'number' || spec.type === 'vector') {
    const [from, to] = reachOf(value as DialValue, spec);
    const [low, high] = rangeOf(value as NumberFeed);
    const rest = low === high ? low : (low + high) / 2;
    Object.assign(control.dials, { low: from, high: to, rest, unit: spec.unit });
    return { ...address, from, to };
  }
  if (spec.type === 'colour') {
    const feed = value as DialValue;
    if (isGradient(feed)) control.dials.rest = feed.stops;
    else if (typeof feed === 'string') control.dials.rest = feed;
    return address;
  }
  control.dials.rest = value as ControlValue as string;
  return address;
}

/** What a control that is there already does to one more place. */
function joining(place: Place, value: unknown): Partial<Move> {
  const { spec } = place;
  if (spec === 'on' || (spec.type !== 'number' && spec.type !== 'vector')) return {};
  const [from, to] = reachOf(value as DialValue, spec);
  return { from, to };
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
  const there = piece.controls.find((c) => c.id === known);
  if (there) {
    there.dials.moves = [...movesOf(there), { place: address, ...joining(place, value) }];
    return;
  }
  const kind = kindOfControl(place, value);
  if (kind === null) return;
  const control = makePart('controls', kind, piece.controls);
  const move = setUp(control, place, value);
  control.name = freeName(piece, place.spec === 'on' ? place.part : `${place.part} ${place.title}`);
  control.id = freshIdIn(piece, 'controls', calledName(control.name).slice(0, 40));
  control.dials.moves = [{ ...move, place: address }];
  piece.controls.push(control);
}

/** Lets a control hold a place no longer. */
export function takeBack(piece: Piece, place: string): void {
  const control = holderOf(piece, place);
  if (control) control.dials.moves = movesOf(control).filter((m) => m.place !== place);
}
