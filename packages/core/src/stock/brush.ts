import type { Strokes } from '../feeds/feeds';

/** Grid points along each side of a brushed plane. */
export const GRID = 96;

interface Flow {
  /** To the right and up, of strength 1 where a stroke of strength 1 runs. */
  x: Float32Array;
  y: Float32Array;
}

const ready = new WeakMap<object, Flow>();

/**
 * Strokes as a grid of directions: each stroke lays its way over what was there, fully along its
 * line and less towards its edge.
 */
export function brushedFlow(strokes: Strokes): Flow {
  let flow = ready.get(strokes);
  if (!flow) {
    flow = { x: new Float32Array(GRID * GRID), y: new Float32Array(GRID * GRID) };
    for (const stroke of strokes) lay(flow, stroke);
    ready.set(strokes, flow);
  }
  return flow;
}

function lay(flow: Flow, { points, radius, strength }: Strokes[number]): void {
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
