import { useMemo } from 'react';
import { shallowEqual } from 'react-redux';
import { chainOf, sourcesOf, type Piece } from '@vast-swarm/core/piece';
import { memo } from '@vast-swarm/core/stock';
import { Scene } from '@vast-swarm/core/plan';
import { useApp } from '../store/store';
import { useAnswer } from './useAnswer';

/** Values over the piece that are asked of the engine, for a signal that hears. */
const MOST = 2000;

/** Inputs of a signal: while all of them are the same, so is its curve. */
export function rootsOf(piece: Piece, id: string): unknown[] {
  const { sounds, performers, controls, cues, stock, frame, seed } = piece;
  return [...chainOf(piece, [id]), sounds, performers, controls, cues, stock, frame, seed];
}

/**
 * A signal of the piece as a function of the time in seconds. One that hears a sound is worked out where the
 * engine works, and is 0 until it is there.
 */
export function useSignal(id: string): (time: number) => number {
  // As it was when one of these changed last.
  const piece = useApp(
    (s) => s.piece.piece!,
    (a, b) => shallowEqual(rootsOf(a, id), rootsOf(b, id)),
  );
  const hears = chainOf(piece, [id]).some((part) => sourcesOf(part, 'sounds').length > 0);
  const { rate, length } = piece.frame;
  const seconds = length / rate;
  const count = Math.min(MOST, length) + 1;
  const key = hears ? [id, seconds, count].join(' ') : '';
  const heard = useAnswer('signals', key, (to) =>
    hears ? to.curve(id, seconds, count) : Promise.resolve(null),
  );
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
