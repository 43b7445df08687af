import { kindOf } from '../../sections';
import type { StateName } from '../../language/particle';
import type { Swarm } from '../../piece/types';

/** How far back places of a swarm are kept, and whether the metres travelled are. */
export interface History {
  rows: number;
  way: boolean;
}

/**
 * Where particles were: the last so many places of each, kept in the state so that they are saved
 * and brought back with it. The places of frame n stand in ring n mod rows.
 */
const RING = 'ring/';

/** History that the bodies of a swarm that are on need: frames back, and whether the metres travelled. */
function wishesOf(swarm: Swarm): { frames: number; way: boolean }[] {
  return swarm.bodies
    .filter((b) => b.on)
    .flatMap(({ kind, dials }) => kindOf('bodies', kind).history?.(dials) ?? []);
}

/** Frames that a swarm's trails go back, the present one included; 0 where it has none. */
export function historyRows(swarm: Swarm): number {
  const longest = Math.max(0, ...wishesOf(swarm).map((w) => w.frames));
  return longest > 0 ? longest + 1 : 0;
}

/** Whether metres along the trail are wanted. */
export function wantsWay(swarm: Swarm): boolean {
  return wishesOf(swarm).some((w) => w.way);
}

/** State of a swarm that is kept at each frame. */
export function placesOf({ rows, way }: History): StateName[] {
  if (rows === 0) return [];
  return ['px', 'py', 'pz', ...(way ? (['way'] as const) : [])];
}

export function ringOf(frame: number, rows: number): number {
  return ((frame % rows) + rows) % rows;
}

/** Name of a state of the history: its ring and what is kept there. */
export function ringName(ring: number, place: string): StateName {
  return `ring/${String(ring)}.${place}`;
}

/** Whether a state is of the history. */
export function isRing(name: string): boolean {
  return name.startsWith(RING);
}

export function historyStates(history: History): StateName[] {
  const rings = Array.from({ length: history.rows }, (_, ring) => ring);
  return rings.flatMap((ring) => placesOf(history).map((p) => ringName(ring, p)));
}

/** The state behind a buffer of the trail kernel (`before.px`, `here.px`, `after.px`) for a row. */
export function historyBuffer(buffer: string, frame: number, row: number, rows: number): string {
  const split = buffer.indexOf('.');
  const shift = { before: -1, here: 0, after: 1 }[buffer.slice(0, split)];
  if (shift === undefined) return buffer;
  const back = Math.min(rows - 1, Math.max(0, row + shift));
  return ringName(ringOf(frame - back, rows), buffer.slice(split + 1));
}
