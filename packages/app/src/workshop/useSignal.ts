import { useEffect, useMemo, useState } from 'react';
import { chainOf, memo, Scene, sourcesOf } from '@vast-swarm/core';
import { useEngine } from '../engine/EngineContext';
import { usePiece } from '../store/store';
import { useGrowing } from './useGrowing';

/** Values over the piece that are asked of the engine, for a signal that hears. */
const MOST = 2000;

/**
 * A signal of the piece as a function of the time in seconds. One that hears a sound is worked out where the
 * engine works, and is 0 until it is there.
 */
export function useSignal(id: string): (time: number) => number {
  const piece = usePiece();
  const engine = useEngine();
  const [heard, setHeard] = useState<Float32Array | null>(null);
  const hears = chainOf(piece, [id]).some((s) => sourcesOf(s, 'sounds').length > 0);
  const { signals, sounds, stock, frame, seed } = piece;
  const { rate, length } = frame;
  const seconds = length / rate;
  const count = Math.min(MOST, length) + 1;
  const grown = useGrowing();
  useEffect(() => {
    if (!hears) return;
    let wanted = true;
    engine
      .ask((to) => to.curve(id, seconds, count))
      .then(
        (values) => {
          if (wanted) setHeard(values);
        },
        // The engine is gone, and has told so.
        () => undefined,
      );
    return () => {
      wanted = false;
    };
    // Most dials that are turned change nothing of it.
  }, [engine, hears, signals, sounds, stock, seed, id, seconds, count, grown]);
  return useMemo(() => {
    if (!hears) {
      // One for all that read the piece.
      const scene = memo(piece, 'scene', () => new Scene(piece));
      return (time) => scene.signal(id, time);
    }
    return (time) => {
      if (!heard) return 0;
      const at = Math.max(0, Math.min(1, time / seconds)) * (heard.length - 1);
      const low = Math.min(heard.length - 2, Math.floor(at));
      return heard[low]! + (heard[low + 1]! - heard[low]!) * (at - low);
    };
  }, [hears, piece, id, heard, seconds]);
}
