import type { FlatStroke, SpaceStroke, Strokes } from '../../feeds/feeds';
import { memo } from '../memo';

/** Grid points along each side of a brushed plane. */
export const GRID = 96;

interface Flow {
  /** To the right and up, of strength 1 where a stroke of strength 1 runs. */
  x: Float32Array;
  y: Float32Array;
}

/**
 * Strokes as a grid of directions: each stroke lays its way over what was there, fully along its
 * line and less towards its edge.
 */
export function brushedFlow(strokes: Strokes): Flow {
  return memo(strokes, 'flow', () => {
    const flow = { x: new Float32Array(GRID * GRID), y: new Float32Array(GRID * GRID) };
    for (const stroke of strokes) if ('points' in stroke) lay(flow, stroke);
    return flow;
  });
}

function lay(flow: Flow, { points, radius, strength }: FlatStroke): void {
  const segments = points.length / 2 - 1;
  for (let j = 0; j < GRID; j++) {
    for (let i = 0; i < GRID; i++) {
      const [u, v] = [i / (GRID - 1), j / (GRID - 1)];
      let [best, dx, dy] = [Infinity, 0, 0];
      for (let s = 0; s < segments; s++) {
        const [ax, ay, bx, by] = points.slice(2 * s, 2 * s + 4) as [number, number, number, number];
        const [wx, wy] = [bx - ax, by - ay];
        const length = wx * wx + wy * wy;
        if (length === 0) continue;
        const t = Math.min(1, Math.max(0, ((u - ax) * wx + (v - ay) * wy) / length));
        const d = Math.hypot(u - ax - t * wx, v - ay - t * wy);
        if (d < best) [best, dx, dy] = [d, wx / Math.sqrt(length), wy / Math.sqrt(length)];
      }
      const near = 1 - best / radius;
      if (near <= 0) continue;
      const weight = near * near * (3 - 2 * near);
      const at = j * GRID + i;
      flow.x[at] = flow.x[at]! + (strength * dx - flow.x[at]!) * weight;
      // Rows go down, the flow's own y goes up.
      flow.y[at] = flow.y[at]! + (-strength * dy - flow.y[at]!) * weight;
    }
  }
}

/** Grid points along each side of the space round strokes on a surface. */
export const DEEP = 32;

/** Directions in a block of space, of strength 1 where a stroke of strength 1 runs. */
export interface SpaceFlow {
  /** Place of the first grid point, and the distance from one to the next, in metres. */
  origin: [number, number, number];
  step: [number, number, number];
  /** x, y and z of the directions; x of the place runs fastest. */
  values: [Float32Array, Float32Array, Float32Array];
}

/** Strokes along a surface as a grid in space: each lays its way over what was there before. */
export function spaceFlow(strokes: Strokes): SpaceFlow | null {
  return memo(strokes, 'space flow', () => {
    const own = strokes.filter((s): s is SpaceStroke => 'places' in s);
    return own.length > 0 ? gridOf(own) : null;
  });
}

function gridOf(strokes: readonly SpaceStroke[]): SpaceFlow {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const { places, radius } of strokes) {
    places.forEach((v, i) => {
      low[i % 3] = Math.min(low[i % 3]!, v - radius);
      high[i % 3] = Math.max(high[i % 3]!, v + radius);
    });
  }
  const values = [0, 1, 2].map(() => new Float32Array(DEEP ** 3)) as SpaceFlow['values'];
  const step = high.map((h, i) => (h - low[i]!) / (DEEP - 1)) as SpaceFlow['step'];
  const flow: SpaceFlow = { origin: low as SpaceFlow['origin'], step, values };
  for (const stroke of strokes) layInSpace(flow, stroke);
  return flow;
}

function layInSpace(flow: SpaceFlow, { places, radius, strength }: SpaceStroke): void {
  for (let cell = 0; cell < DEEP ** 3; cell++) {
    const index = [cell % DEEP, Math.floor(cell / DEEP) % DEEP, Math.floor(cell / DEEP ** 2)];
    const at = index.map((i, k) => flow.origin[k]! + i * flow.step[k]!);
    let best = radius;
    let way: number[] | null = null;
    for (let s = 0; s + 5 < places.length; s += 3) {
      const side = [0, 1, 2].map((k) => places[s + 3 + k]! - places[s + k]!);
      const length = side.reduce((sum, v) => sum + v * v, 0);
      if (length === 0) continue;
      const along = side.reduce((sum, v, k) => sum + v * (at[k]! - places[s + k]!), 0) / length;
      const t = Math.min(1, Math.max(0, along));
      const off = side.map((v, k) => at[k]! - places[s + k]! - t * v);
      const d = Math.hypot(...off);
      if (d < best) [best, way] = [d, side.map((v) => v / Math.sqrt(length))];
    }
    if (!way) continue;
    const near = 1 - best / radius;
    const weight = near * near * (3 - 2 * near);
    flow.values.forEach((axis, k) => {
      axis[cell] = axis[cell]! + (strength * way[k]! - axis[cell]!) * weight;
    });
  }
}
