import { inSpace, type StockData } from './types';

/** The least box around points: [low, high]. */
export function boundsOf(positions: Float32Array): [number[], number[]] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    low[axis] = Math.min(low[axis]!, positions[i]!);
    high[axis] = Math.max(high[axis]!, positions[i]!);
  }
  return positions.length > 0
    ? [low, high]
    : [
        [0, 0, 0],
        [0, 0, 0],
      ];
}

/** All points of a thing of the stock that has points. */
export function pointsOf(data: StockData): Float32Array {
  if (!inSpace(data)) return new Float32Array(0);
  if (data.type !== 'outline') return data.positions;
  const all = new Float32Array(data.curves.reduce((n, c) => n + c.points.length, 0));
  data.curves.reduce((at, { points }) => (all.set(points, at), at + points.length), 0);
  return all;
}
