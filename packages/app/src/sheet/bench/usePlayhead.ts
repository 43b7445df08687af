import { useEffect, useEffectEvent } from 'react';
import { useEngine } from '../../engine/EngineContext';
import { usePiece } from '../../store/store';

/** Tells the second of the piece that is shown, at once and at every frame. */
export function usePlayhead(put: (seconds: number) => void): void {
  const engine = useEngine();
  const { rate } = usePiece().frame;
  const told = useEffectEvent(put);
  useEffect(() => {
    const tell = (): void => {
      told((Math.max(0, engine.report?.frame ?? 0) + 1) / rate);
    };
    tell();
    return engine.subscribe(tell);
  }, [engine, rate]);
}
