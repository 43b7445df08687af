import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import type { View } from './view';

/** Most beats that are looked at in one view. */
const MOST = 2000;

/** Whether a signal has a tempo, and with it beats. */
export function hasTempo({ kind }: Part): boolean {
  return kindOf('signals', kind).bench?.tempo !== undefined;
}

/** Where beats fall in a view, in frames: of all signals that have a tempo and are on. */
export function beatsIn(signals: readonly Part[], frameRate: number, { from, to }: View): number[] {
  const beats = signals.flatMap(({ on, kind, dials }) => {
    const tempo = kindOf('signals', kind).bench?.tempo;
    if (!on || !tempo) return [];
    const [rate, first] = tempo.map((key) => dials[key] as number) as [number, number];
    const every = (60 / rate) * frameRate;
    const begin = first * frameRate;
    const n = Math.ceil((from - begin) / every - 1e-9);
    const count = Math.min(MOST, Math.floor((to - begin) / every + 1e-9) - n + 1);
    return Array.from({ length: Math.max(0, count) }, (_, i) => begin + (n + i) * every);
  });
  return beats.sort((a, b) => a - b);
}
