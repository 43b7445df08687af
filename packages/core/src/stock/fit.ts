import { boundsOf, pointsOf } from './points';
import { memo } from './memo';
import { inSpace, type StockData } from './types';

/** How a file's own measure becomes ours. */
export interface Fit {
  /** Which axis of the file points up; y if nothing is said. */
  up?: 'y' | 'z' | undefined;
  /** Metres for one unit of the file. */
  unit?: number | undefined;
  /** Metres of the longest side, the middle at the origin; goes before `unit`. */
  size?: number | undefined;
}

/** A thing of the stock in our measure; what does not stand in space has none. */
export function fitted(data: StockData, { up, unit, size }: Fit): StockData {
  if (!inSpace(data) || (up !== 'z' && unit === undefined && size === undefined)) return data;
  return memo(data, `fit ${up ?? 'y'} ${String(unit)} ${String(size)}`, () => {
    const [low, high] = boundsOf(pointsOf(data));
    const longest = Math.max(...high.map((h, i) => h - low[i]!));
    const scale = size !== undefined && longest > 0 ? size / longest : (unit ?? 1);
    const middle = size === undefined ? [0, 0, 0] : low.map((l, i) => (l + high[i]!) / 2);
    const put = (points: Float32Array): Float32Array => {
      const out = new Float32Array(points.length);
      for (let i = 0; i < points.length; i += 3) {
        const [x, y, z] = [0, 1, 2].map((k) => (points[i + k]! - middle[k]!) * scale) as [
          number,
          number,
          number,
        ];
        // z up: a quarter turn about x brings it to y, and y to the back.
        out.set(up === 'z' ? [x, z, -y] : [x, y, z], i);
      }
      return out;
    };
    if (data.type !== 'outline') return { ...data, positions: put(data.positions) };
    return { ...data, curves: data.curves.map((c) => ({ ...c, points: put(c.points) })) };
  });
}
