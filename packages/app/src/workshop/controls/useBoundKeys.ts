import { useEffect } from 'react';
import { controlKind, type ControlValue, type Piece } from '@vast-swarm/core';
import type { EngineClient } from '../../engine/client';
import { store } from '../../store/store';
import { TYPING } from '../useShortcuts';
import { actsOf } from './useActs';

/** What a key of the piece does: it fires cues, and moves controls while it is held. */
interface Bound {
  cues: string[];
  controls: { id: string; value: ControlValue }[];
}

/** What a piece has bound to a key; null where that is nothing. */
export function boundTo(piece: Piece, pressed: string): Bound | null {
  const key = pressed.length === 1 ? pressed.toLowerCase() : pressed;
  const cues = piece.cues.filter((c) => c.on && c.dials.key === key).map((c) => c.id);
  const controls = piece.controls.flatMap((control) => {
    const held = control.on ? controlKind(control).held?.(control.dials) : null;
    return held?.key === key ? [{ id: control.id, value: held.value }] : [];
  });
  return cues.length + controls.length > 0 ? { cues, controls } : null;
}

/** Keys that the piece binds, while it plays: before the workshop's own. */
export function useBoundKeys(engine: EngineClient): void {
  useEffect(() => {
    const acts = actsOf(engine);
    /** What held controls were before, by key. */
    const before = new Map<string, { id: string; value: ControlValue }[]>();
    const press = (event: KeyboardEvent): void => {
      const { piece } = store.getState().piece;
      const { playing } = store.getState().tools;
      if (!piece || !playing || event.ctrlKey || event.metaKey || event.altKey) return;
      if ((event.target as HTMLElement).matches(TYPING)) return;
      const bound = boundTo(piece, event.key);
      if (!bound) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.repeat) return;
      bound.cues.forEach(acts.fire);
      const now = engine.report?.controls ?? {};
      const were = bound.controls.flatMap(({ id }) => {
        const value = now[id];
        return value === undefined ? [] : [{ id, value }];
      });
      if (were.length > 0) before.set(event.code, were);
      for (const { id, value } of bound.controls) acts.set(id, value);
    };
    const lift = ({ code }: KeyboardEvent): void => {
      for (const { id, value } of before.get(code) ?? []) acts.set(id, value);
      before.delete(code);
    };
    const all = (): void => {
      for (const code of [...before.keys()]) lift({ code } as KeyboardEvent);
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
  }, [engine]);
}
