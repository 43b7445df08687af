import { useEffect, type RefObject } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import { useEngine } from '../engine/EngineContext';
import { store } from '../store/store';
import { TYPING } from '../ui/typing';

const KEY = 's';
/** Long enough for a frame that says that nothing is held any more, in milliseconds. */
const LAST = 150;

/** Signals of the pointer: while S is held over the picture, they are driven by where it is, and recorded. */
export function usePointerSignals(picture: RefObject<HTMLDivElement | null>): void {
  const engine = useEngine();
  useEffect(() => {
    let held = false;
    let at = { across: 0.5, up: 0.5 };
    const drive = (values: Record<'across' | 'up' | 'held', number> | null): void => {
      for (const { id, kind, dials } of store.getState().piece.piece?.signals ?? []) {
        const tells = kindOf('signals', kind).points?.(dials);
        if (tells) engine.drive(id, values && values[tells]);
      }
    };
    const move = ({ clientX, clientY }: PointerEvent): void => {
      const box = picture.current!.getBoundingClientRect();
      const part = (v: number): number => Math.min(1, Math.max(0, v));
      at = {
        across: part((clientX - box.left) / box.width),
        up: part((box.bottom - clientY) / box.height),
      };
      if (held) drive({ ...at, held: 1 });
    };
    const press = (event: KeyboardEvent): void => {
      const { key, repeat, ctrlKey, metaKey, target } = event;
      if (key.toLowerCase() !== KEY || repeat || ctrlKey || metaKey) return;
      if ((target as HTMLElement).matches(TYPING)) return;
      held = true;
      drive({ ...at, held: 1 });
    };
    const release = (): void => {
      if (!held) return;
      held = false;
      drive({ ...at, held: 0 });
      setTimeout(() => {
        if (!held) drive(null);
      }, LAST);
    };
    const lift = ({ key }: KeyboardEvent): void => {
      if (key.toLowerCase() === KEY) release();
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', lift);
    window.addEventListener('blur', release);
    return () => {
      release();
      window.removeEventListener('pointermove', move);
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', lift);
      window.removeEventListener('blur', release);
    };
  }, [engine, picture]);
}
