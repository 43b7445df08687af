import { useEffect, useEffectEvent, useState } from 'react';
import { shallowEqual } from 'react-redux';
import type { EngineClient } from '../engine/client';
import { useEngine } from '../engine/EngineContext';
import { useApp } from '../store/store';
import { useGrowing } from './useGrowing';

type Question<T> = Parameters<typeof EngineClient.prototype.ask<T>>[0];

/**
 * The engine's answer to a question about sounds, or about signals; asked again when what it hangs on has changed,
 * and while it is recorded. Null until there is an answer.
 *
 * @param key tells one question from another
 */
export function useAnswer<T>(
  of: 'sounds' | 'signals',
  key: string,
  question: Question<T>,
): T | null {
  const engine = useEngine();
  const [answer, setAnswer] = useState<T | null>(null);
  const grown = useGrowing();
  const ask = useEffectEvent(() => engine.ask(question));
  // Most dials that are turned change nothing of it.
  const made = useApp(({ piece: { piece } }) => {
    const { signals, sounds, stock, frame, seed } = piece!;
    return [of === 'signals' ? signals : null, sounds, stock, frame, seed];
  }, shallowEqual);
  useEffect(() => {
    let wanted = true;
    ask().then(
      (found) => {
        if (wanted) setAnswer(() => found);
      },
      // The engine is gone, and has told so.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [engine, key, made, grown]);
  return answer;
}
