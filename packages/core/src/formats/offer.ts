import { heldPlace, controlKind, movesOf } from '../piece/controls';
import type { Part, Piece } from '../piece/types';
import type { Moved, Offer, OutsideAct, PieceAct, ShowAct } from './controlDoor';

/** Something that is chosen by its name. */
interface Named {
  id: string;
  name: string;
}

/** The pictures of a piece: of its stock, and those that move. */
export function picturesOf({ stock, pictures }: Piece): Named[] {
  return [...stock.filter((s) => s.type === 'picture'), ...pictures];
}

/** Options that all dials of a control have in common. */
export function optionsOf(piece: Piece, control: Part): Named[] {
  const choices = movesOf(control).flatMap((move) => {
    const spec = heldPlace(piece, control, move)?.spec;
    return spec && spec !== 'on' && spec.type === 'choice' ? [spec.options] : [];
  });
  const [first = [], ...others] = choices;
  return first
    .filter(({ value }) => others.every((o) => o.some((option) => option.value === value)))
    .map(({ value, title }) => ({ id: value, name: title }));
}

/**
 * Acts on a piece by a fader or a button outside, as it was learnt.
 *
 * @param before where it stood before: a cue is fired when it is pressed, not while it is
 */
export function learntActs(piece: Piece, { source, value }: Moved, before: number): PieceAct[] {
  const pressed = value >= 0.5 && before < 0.5;
  const moves = piece.controls.flatMap((control): PieceAct[] => {
    if (!control.on || control.dials.learnt !== source) return [];
    const kind = controlKind(control);
    if (kind.holds === 'switch') return [{ control: control.id, to: value >= 0.5 }];
    if (!kind.range) return [];
    const [low, high] = kind.range(control.dials);
    return [{ control: control.id, to: low + (high - low) * Math.min(1, Math.max(0, value)) }];
  });
  const fires = piece.cues.filter((c) => c.on && pressed && c.dials.learnt === source);
  return [...moves, ...fires.map((c): PieceAct => ({ cue: c.id }))];
}

/** The fastest that a show goes. */
export const FASTEST = 4;

/** Controls of all of a show, by the ids that acts have for them; no piece has such. */
const WHOLE = [
  { id: '/brightness', name: 'master-brightness', high: 1 },
  { id: '/speed', name: 'master-speed', high: FASTEST },
] as const;

/**
 * All that can be run of a show, as those outside are told.
 *
 * @param piece what is played now; null before the night begins
 * @param pieces its entries, by the names of their pieces
 */
export function showOffer(piece: Piece | null, pieces: readonly Named[]): Offer {
  const own = piece ? offerOf(piece) : { piece: '', controls: [], cues: [], learnt: [] };
  const whole = WHOLE.map((c) => ({
    ...c,
    holds: 'number' as const,
    group: 'show',
    unit: '',
    low: 0,
  }));
  return { ...own, controls: [...whole, ...own.controls], pieces: [...pieces] };
}

/** The act on a whole show that a control of it stands for; null where it is one of a piece. */
export function wholeAct(act: OutsideAct): ShowAct | null {
  if (!('control' in act) || !act.control.startsWith('/')) return null;
  const to = act.to as number;
  if (act.control === '/speed') return { all: 'speed', to };
  return { all: 'brightness', to, ...(act.over ? { over: act.over } : {}) };
}

/** All that can be run of a piece, as those outside are told. */
export function offerOf(piece: Piece): Offer {
  return {
    piece: piece.name,
    controls: piece.controls
      .filter((c) => c.on)
      .map((control) => {
        const kind = controlKind(control);
        const { holds } = kind;
        const [low, high] = kind.range?.(control.dials) ?? [];
        const choices = holds === 'picture' ? picturesOf(piece) : optionsOf(piece, control);
        const chosen = holds === 'picture' || holds === 'option';
        return {
          id: control.id,
          name: control.name,
          holds,
          group: control.dials.group as string,
          unit: holds === 'number' ? (control.dials.unit as string) : '',
          ...(low === undefined ? {} : { low, high }),
          ...(chosen ? { options: choices.map((o) => o.id) } : {}),
        };
      }),
    cues: piece.cues.filter((c) => c.on).map(({ id, name }) => ({ id, name })),
    learnt: [...piece.controls, ...piece.cues].flatMap((p) => (p.dials.learnt as string) || []),
  };
}
