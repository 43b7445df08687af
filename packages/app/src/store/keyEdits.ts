import { keysAt } from '@vast-swarm/core/kinds';
import type { Key, Keys } from '@vast-swarm/core/feeds';

const round = (v: number): number => Math.round(v * 1e4) / 1e4;

export function keysAtTime(keys: Keys, at: number): number {
  return round(keysAt(keys, at));
}

/** The keys with one more; one that stands at the same time gives way to it. */
export function withKey(keys: Keys, key: Key): Keys {
  const others = keys.filter((k) => Math.abs(k.at - key.at) > 1e-4);
  return [...others, { ...key, at: round(key.at) }].sort((a, b) => a.at - b.at);
}
