import type { Peaks } from '@vast-swarm/core/stock';
import { useAnswer } from './useAnswer';

/** Peaks of a sound between two seconds of the piece, in so many stretches. */
export function usePeaks(id: string, from: number, to: number, count: number): Peaks | null {
  const key = [id, from, to, count].join(' ');
  return useAnswer('sounds', key, (ask) => ask.peaks(id, from, to, count));
}
