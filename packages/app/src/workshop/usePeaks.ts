import { useEffect, useState } from 'react';
import type { Peaks } from '@vast-swarm/core';
import { useEngine } from '../engine/EngineContext';
import { usePiece } from '../store/store';
import { useGrowing } from './useGrowing';

/** What is heard of a sound between two seconds of the piece, in so many stretches; found where the engine works. */
export function usePeaks(id: string, from: number, to: number, count: number): Peaks | null {
  const engine = useEngine();
  const { sounds, stock, frame } = usePiece();
  const [peaks, setPeaks] = useState<Peaks | null>(null);
  const grown = useGrowing();
  useEffect(() => {
    let wanted = true;
    const take = (found: Peaks | null): void => {
      if (wanted) setPeaks(found);
    };
    engine.ask((ask) => ask.peaks(id, from, to, count)).then(take, () => undefined);
    return () => {
      wanted = false;
    };
  }, [engine, id, from, to, count, sounds, stock, frame, grown]);
  return peaks;
}
