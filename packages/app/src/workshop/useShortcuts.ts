import { useEffect } from 'react';
import type { Vector } from '@vast-swarm/core';
import type { EngineClient } from '../engine/client';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { framed } from './picture/orbit';

/** Keys of the workshop, with what they do; the guide lists them. */
export const SHORTCUTS: readonly [string, string][] = [
  ['Space', 'Play or pause'],
  ['Left, Right', 'A frame back or on; with Shift ten'],
  ['Home, End', 'First or last frame'],
  ['Ctrl+Z', 'Undo'],
  ['Ctrl+Shift+Z', 'Redo'],
  ['F', 'Frame the selected swarm'],
  ['H', 'Show or hide handles'],
  ['Click on the picture', 'Follow the particle there; Escape lets go'],
  ['Ctrl+Shift+C, Ctrl+Shift+V', 'Copy a shape over life from one row to another'],
  ['Delete', 'Remove the part whose tag has the focus'],
  ['F2', 'Rename the part whose tag has the focus'],
  ['Alt+Left, Alt+Right', 'Move the part in the line-up'],
  ['?', 'The guide'],
];

/** Turns the camera to the selected swarm's emitter. */
function frameSelection(): void {
  const { piece, selection } = store.getState().piece;
  if (!piece) return;
  const swarm = piece.swarms.find((s) => s.id === selection?.id) ?? piece.swarms[0];
  if (!swarm) return;
  const { centre, radius, size } = swarm.emitter.dials;
  const extent =
    typeof radius === 'number'
      ? radius
      : Array.isArray(size)
        ? Math.max(...(size as number[])) / 2
        : 1;
  const value = framed(
    piece.camera,
    (centre as Vector | undefined) ?? [0, 0, 0],
    Math.max(1, extent),
  );
  store.dispatch(pieceActions.set({ path: ['camera'], value, label: 'Frame the selection' }));
}

export function useShortcuts(
  engine: EngineClient,
  playing: boolean,
  setPlaying: (playing: boolean) => void,
): void {
  useEffect(() => {
    const keys = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      const undo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
      const typing = target.matches('input, textarea, [contenteditable]');
      if (undo && !typing) {
        store.dispatch(event.shiftKey ? pieceActions.redone() : pieceActions.undone());
        event.preventDefault();
        return;
      }
      // Keys that a control of its own wants are left to it.
      const taken =
        typing || target.closest('[role=slider], [role=menu], [role=listbox], [role=separator]');
      // What no control wants goes through from anywhere but a text.
      const free = !typing && ['f', 'h', 'Escape'].includes(event.key);
      if ((taken && !free) || event.ctrlKey || event.metaKey || event.altKey) return;
      const last = (store.getState().piece.piece?.frame.length ?? 1) - 1;
      const now = engine.place;
      const step = event.shiftKey ? 10 : 1;
      const onButton = target.matches('button, a, [role=tab], [role=combobox]');
      if (event.key === ' ' && !onButton) setPlaying(!playing);
      else if (event.key === 'ArrowLeft' && !onButton) engine.seek(Math.max(0, now - step));
      else if (event.key === 'ArrowRight' && !onButton) engine.seek(Math.min(last, now + step));
      else if (event.key === 'Home') engine.seek(0);
      else if (event.key === 'End') engine.seek(last);
      else if (event.key === 'f') frameSelection();
      else if (event.key === 'h') store.dispatch(toolActions.handlesToggled());
      else if (event.key === 'Escape') {
        engine.follow(null);
        store.dispatch(toolActions.followingSet(false));
        store.dispatch(toolActions.toolChosen(null));
      } else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', keys);
    return () => {
      window.removeEventListener('keydown', keys);
    };
  }, [engine, playing, setPlaying]);
}
