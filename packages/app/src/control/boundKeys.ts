import { controlKind, type Piece } from '@vast-swarm/core/piece';
import type { ControlValue } from '@vast-swarm/core/feeds';
import { TYPING } from '../ui/typing';

/** Effect of a key of the piece: it fires cues, and moves controls while it is held. */
interface Bound {
  cues: string[];
  controls: { id: string; value: ControlValue }[];
}

/** The effect that a piece has bound to a key; null where it has none. */
export function boundTo(piece: Piece, pressed: string): Bound | null {
  const key = pressed.length === 1 ? pressed.toLowerCase() : pressed;
  const cues = piece.cues.filter((c) => c.on && c.dials.key === key).map((c) => c.id);
  const controls = piece.controls.flatMap((control) => {
    const held = control.on ? controlKind(control).held?.(control.dials) : null;
    return held?.key === key ? [{ id: control.id, value: held.value }] : [];
  });
  return cues.length + controls.length > 0 ? { cues, controls } : null;
}

/** The piece that keys act on. */
interface Bindings {
  /** The piece whose keys count now; null where none do. */
  piece: () => Piece | null;
  /** Present values of controls, by id. */
  values: () => Readonly<Record<string, ControlValue>>;
  set: (control: string, to: ControlValue) => void;
  fire: (cue: string) => void;
}

/** Listens to keys that a piece binds, before all others. Gives what ends it, and lets go of what is held. */
export function listenToBound({ piece, values, set, fire }: Bindings): () => void {
  /** Values of held controls before they were held, by key. */
  const before = new Map<string, { id: string; value: ControlValue }[]>();
  const press = (event: KeyboardEvent): void => {
    const of = piece();
    if (!of || event.ctrlKey || event.metaKey || event.altKey) return;
    if ((event.target as HTMLElement).matches(TYPING)) return;
    const bound = boundTo(of, event.key);
    if (!bound) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.repeat) return;
    bound.cues.forEach(fire);
    const now = values();
    const were = bound.controls.flatMap(({ id }) => {
      const value = now[id];
      return value === undefined ? [] : [{ id, value }];
    });
    if (were.length > 0) before.set(event.code, were);
    for (const { id, value } of bound.controls) set(id, value);
  };
  const lift = ({ code }: { code: string }): void => {
    for (const { id, value } of before.get(code) ?? []) set(id, value);
    before.delete(code);
  };
  const all = (): void => {
    for (const code of [...before.keys()]) lift({ code });
  };
  window.addEventListener('keydown', press, true);
  window.addEventListener('keyup', lift, true);
  window.addEventListener('blur', all);
  return () => {
    all();
    window.removeEventListener('keydown', press, true);
    window.removeEventListener('keyup', lift, true);
    window.removeEventListener('blur', all);
  };
}
