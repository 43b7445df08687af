import { swarmDials } from '../sections/swarms/swarmDials';
import type { Piece, Swarm } from './types';

/** Settings of a swarm beside its dials. */
export const SECTIONS = ['emitter', 'launch', 'bodies', 'copies'] as const;

/** The settings a swarm has in effect: its own, or those of the swarm it follows. */
export function inEffect(piece: Piece, swarm: Swarm): Swarm {
  const leader = piece.swarms.find((s) => s.id === swarm.follows);
  if (!leader) return swarm;
  const own = new Set(swarm.own);
  const result = { ...swarm, dials: { ...swarm.dials } };
  for (const section of SECTIONS) {
    if (!own.has(section)) Object.assign(result, { [section]: leader[section] });
  }
  for (const key of Object.keys(swarmDials)) {
    if (!own.has(key)) result.dials[key] = leader.dials[key]!;
  }
  return result;
}

/** The section of a swarm that a change at this path makes its own; null for one that is its own anyway. */
export function ownSection(path: readonly (string | number)[]): string | null {
  const [list, , section, key] = path;
  if (list !== 'swarms' || typeof section !== 'string') return null;
  if (section === 'dials') return String(key);
  return (SECTIONS as readonly string[]).includes(section) ? section : null;
}
