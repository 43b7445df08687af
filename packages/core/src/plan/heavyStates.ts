import type { Notice, SwarmPlan } from './plan';

/** Bytes of states beyond which it is told: with snapshots and pictures it comes to a gigabyte and a half. */
const MUCH = 1e9;

const bytesOf = ({ capacity, state }: SwarmPlan): number => 4 * capacity * state.length;

/** Of a piece whose swarms take very much memory, at the one that takes most. */
export function heavyStates(swarms: readonly SwarmPlan[]): Notice[] {
  const all = swarms.reduce((sum, s) => sum + bytesOf(s), 0);
  if (all < MUCH) return [];
  const most = swarms.reduce((a, b) => (bytesOf(b) > bytesOf(a) ? b : a));
  const { id, name, capacity, history } = most;
  const gigabytes = (bytes: number): string => (bytes / 1e9).toFixed(1);
  const room = `room for ${capacity.toLocaleString('en-GB')} particles`;
  const trails = history.rows > 0 ? ` with trails of ${String(history.rows - 1)} frames` : '';
  const remedy = history.rows > 0 ? 'Shorten its trails, or lower its rate' : 'Lower its rate';
  const message = `The swarms take ${gigabytes(all)} GB of memory, ${gigabytes(bytesOf(most))} GB of it ${name}: ${room}${trails}. Not every machine has so much. ${remedy} or its lifetime.`;
  return [{ part: id, message }];
}
