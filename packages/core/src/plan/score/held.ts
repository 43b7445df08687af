import { kindOf } from '../../sections';
import { isGradient, overOf, type DialValue, type NumberFeed } from '../../feeds/feeds';
import type { ControlValue, Move } from '../../feeds/control';
import { eased } from '../../feeds/shape';
import type { NumberDial, VectorDial } from '../../language/dials';
import { controlKind, heldPlace, movesOf } from '../../piece/controls';
import type { Place } from '../../piece/places';
import type { Part, Piece } from '../../piece/types';

/** The signal that a fader is for a dial that it moves: from 0 to 1, on the curve of the move. No file can name it. */
export function movingSignal(control: string, { ease = 'straight' }: Move): string {
  return `${control}/${ease}`;
}

/** A fader's number as a part of its range. */
export function partOfRange(control: Part, value: number): number {
  const [low, high] = controlKind(control).range!(control.dials);
  return high > low ? (value - low) / (high - low) : 0;
}

/** The dials and switches that a control holds. */
interface Held {
  control: Part;
  move: Move;
  place: Place;
  /** Whether a signal moves it; what none can moves from plan to plan. */
  smooth: boolean;
}

/** All that the controls of a piece hold, of those that are on. */
export function heldBy(piece: Piece): Held[] {
  return piece.controls
    .filter((c) => c.on)
    .flatMap((control) =>
      movesOf(control).flatMap((move) => {
        const place = heldPlace(piece, control, move);
        return place ? [{ control, move, place, smooth: isSmooth(place.spec) }] : [];
      }),
    );
}

/** Whether a dial can be fed by a signal. */
function isSmooth(spec: Place['spec']): spec is NumberDial | VectorDial {
  if (spec === 'on') return false;
  return spec.type === 'vector' || (spec.type === 'number' && spec.varies !== 'never');
}

/**
 * A piece as controls hold it: dials that signals can move are fed by theirs, all others are what `now` says.
 * What is not held is the same object as before.
 */
export function underControls(
  piece: Piece,
  held: readonly Held[],
  now: (control: string) => ControlValue | undefined,
): Piece {
  let result: unknown = piece;
  for (const { control, move, place, smooth } of held) {
    const value = now(control.id);
    result = changed(result, place.path, (given) => {
      const before = given as DialValue;
      if (smooth) return feedOf(control, move, place, before);
      return value === undefined ? before : (plain(control, move, place, before, value) ?? before);
    });
  }
  return result as Piece;
}

/** With what stands at a path changed; only what is on the way to it is made anew. */
function changed(
  tree: unknown,
  [key, ...rest]: readonly (string | number)[],
  set: (before: unknown) => unknown,
): unknown {
  if (key === undefined) return set(tree);
  const holder = tree as Record<string | number, unknown>;
  const value = changed(holder[key], rest, set);
  if (value === holder[key]) return tree;
  if (!Array.isArray(tree)) return { ...holder, [key]: value };
  return tree.map((item: unknown, i) => (i === key ? value : item));
}

/** Values of the dial at both ends of the control, within its own limits. */
function endsOf({ from, to }: Move, spec: NumberDial | VectorDial): [number, number] {
  const inside = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  return [inside(from ?? spec.min), inside(to ?? spec.max)];
}

function feedOf(control: Part, move: Move, { spec }: Place, before: DialValue): DialValue {
  const [from, to] = endsOf(move, spec as NumberDial);
  const over = (spec as NumberDial).varies === 'life' ? overOf(before) : undefined;
  const signal = movingSignal(control.id, move);
  return { feed: 'signal', signal, from, to, ...(over ? { over } : {}) } satisfies NumberFeed;
}

/** Value of a dial that no signal can move; undefined where it cannot be that. */
function plain(
  control: Part,
  move: Move,
  { spec }: Place,
  before: DialValue,
  value: ControlValue,
): unknown {
  if (spec === 'on') return value;
  if (spec.type === 'number') {
    const [from, to] = endsOf(move, spec);
    const part = partOfRange(control, value as number);
    const moved = from + (to - from) * eased(move.ease ?? 'straight', part);
    return spec.whole ? Math.round(moved) : moved;
  }
  if (spec.type === 'colour' && Array.isArray(value)) {
    // What it goes by stays as it is.
    return { ...(isGradient(before) ? before : { feed: 'gradient' }), stops: value };
  }
  if (spec.type === 'choice') {
    return spec.options.some((o) => o.value === value) ? value : undefined;
  }
  return value;
}

/** A piece with a sound that begins at a frame. */
export function withStart(piece: Piece, sound: string, frame: number): Piece {
  const sounds = piece.sounds.map((part) => {
    const key = kindOf('sounds', part.kind).strip.start;
    if (part.id !== sound) return part;
    return { ...part, on: true, dials: { ...part.dials, [key]: frame } };
  });
  return { ...piece, sounds };
}
