import type { Swarm } from '../piece/schema';
import { rangeOf, type NumberFeed } from '../feeds/feeds';

/**
 * Where particles were: the last so many places of each, kept in the state so that they are saved
 * and brought back with it. The places of frame n stand in ring n mod rows.
 */
export const PLACES = ['px', 'py', 'pz', 'way'] as const;
/** Metres travelled since birth. */
export const WAY = 'way';

/** Frames that a swarm's trails go back, the present one included; 0 where it has none. */
export function historyRows(swarm: Swarm): number {
  const lengths = swarm.bodies
    .filter((b) => b.on && b.kind === 'trail')
    .map((b) => Math.ceil(rangeOf(b.dials.length as NumberFeed)[1]));
  const longest = Math.max(0, ...lengths);
  return longest > 0 ? longest + 1 : 0;
}

/** Whether metres along the trail are wanted. */
export function wantsWay(swarm: Swarm): boolean {
  return swarm.bodies.some((b) => b.on && b.kind === 'trail' && b.dials.by === 'length');
}

export function ringOf(frame: number, rows: number): number {
  return ((frame % rows) + rows) % rows;
}

/** Name of a state of the history: its ring and what is kept there. */
export function ringName(ring: number, place: string): string {
  return `ring.${String(ring)}.${place}`;
}

export function historyStates(rows: number, way: boolean): string[] {
  const places = way ? PLACES : PLACES.slice(0, 3);
  return Array.from({ length: rows }, (_, ring) => places.map((p) => ringName(ring, p))).flat();
}

/** The state behind a buffer of the trail kernel (`before.px`, `here.px`, `after.px`) for a row. */
export function historyBuffer(buffer: string, frame: number, row: number, rows: number): string {
  const split = buffer.indexOf('.');
  const shift = { before: -1, here: 0, after: 1 }[buffer.slice(0, split)];
  if (shift === undefined) return buffer;
  const back = Math.min(rows - 1, Math.max(0, row + shift));
  return ringName(ringOf(frame - back, rows), buffer.slice(split + 1));
}
