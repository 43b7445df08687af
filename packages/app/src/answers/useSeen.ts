import { useEffect, useState } from 'react';
import { useEngine } from '../engine/EngineContext';

/** A source with a state for each frame, as a moving picture or a track. */
export interface Seen<T> {
  stateAt: (frame: number) => number;
  at: (state: number) => T | Promise<T>;
}

/**
 * The content of a source in the frame that is shown; null until it has been read.
 *
 * @param every milliseconds from look to look: the picture of the piece comes first
 */
export function useSeen<T>(source: Seen<T> | undefined, every: number): T | null {
  const engine = useEngine();
  const [found, setFound] = useState<{ of: Seen<T>; value: T } | null>(null);
  useEffect(() => {
    if (!source) return;
    let [shown, last, asked, over] = [NaN, -Infinity, false, false];
    const look = async (): Promise<void> => {
      const state = source.stateAt(Math.max(0, engine.report?.frame ?? 0));
      const now = performance.now();
      if (asked || state === shown || now - last < every) return;
      [asked, shown, last] = [true, state, now];
      const value = await source.at(state);
      asked = false;
      if (!over) setFound({ of: source, value });
    };
    void look();
    const leave = engine.subscribe(() => void look());
    return () => {
      over = true;
      leave();
    };
  }, [engine, source, every]);
  return found && found.of === source ? found.value : null;
}
