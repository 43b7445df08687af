import { useEffect, useRef } from 'react';
import type { Show } from '@vast-swarm/core/show';
import { saveShow } from '../data/shows';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { TYPING } from '../ui/typing';

/** The most steps that are kept to be undone. */
const MOST = 200;

export interface ShowEdits {
  /** The show is another. Changes of one name that follow each other closely are one step. */
  put: (show: Show, name: string) => void;
}

/** Milliseconds in which changes of one name are one step. */
const ONE_STEP = 800;

/** Edits of a show: saved as they are done, undone and done again by keys. */
export function useShowEdits(id: string, show: Show): ShowEdits {
  const dispatch = useAppDispatch();
  const present = useRef(show);
  const past = useRef<Show[]>([]);
  const future = useRef<Show[]>([]);
  const last = useRef({ name: '', at: 0 });
  useEffect(() => {
    present.current = show;
  }, [show]);
  const keep = (next: Show): void => {
    present.current = next;
    saveShow(id, next).catch((error: unknown) => {
      const why = error instanceof Error ? error.message : String(error);
      const message = `The show cannot be saved in the browser: ${why}. Export it to keep it.`;
      dispatch(noticed({ key: 'storage', kind: 'wrong', message }));
    });
  };
  const keeps = useRef(keep);
  useEffect(() => {
    keeps.current = keep;
  });
  useEffect(() => {
    const step = (from: Show[], to: Show[]): void => {
      const next = from.pop();
      if (!next) return;
      to.push(present.current);
      last.current = { name: '', at: 0 };
      keeps.current(next);
    };
    const press = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      if ((event.target as HTMLElement).matches(TYPING)) return;
      event.preventDefault();
      if (event.shiftKey) step(future.current, past.current);
      else step(past.current, future.current);
    };
    window.addEventListener('keydown', press);
    return () => {
      window.removeEventListener('keydown', press);
    };
  }, []);
  return {
    put(next, name) {
      const now = performance.now();
      const sameEdit = last.current.name === name && now - last.current.at < ONE_STEP;
      last.current = { name, at: now };
      if (!sameEdit) past.current = [...past.current.slice(1 - MOST), present.current];
      future.current = [];
      keep(next);
    },
  };
}
