import type { FlatStroke, SpaceStroke, Strokes } from '../../feeds/feeds';
import { reportProgress } from '../../progress';
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
    const nearest = new Nearest(GRID * GRID);
    strokes.forEach((stroke, i) => {
      const tell = (done: number): void => {
        reportProgress('brushed strokes', (i + done) / strokes.length);
      };
      if ('points' in stroke) lay(flow, stroke, nearest, tell);
    });
    return flow;
  });
}

/** The nearest piece of a stroke to each point of a grid, of those that lie within its radius. */
class Nearest {
  private readonly best: Float64Array;
  private readonly piece: Int32Array;
  private readonly touched: number[] = [];

  constructor(count: number) {
    this.best = new Float64Array(count).fill(Infinity);
    this.piece = new Int32Array(count);
  }

  /** Whether a piece this far away would be the nearest; cheaper than its exact distance. */
  wants(at: number, squared: number): boolean {
    const best = this.best[at]!;
    return squared <= best * best * (1 + 1e-9);
  }

  take(at: number, distance: number, piece: number): void {
    if (!(distance < this.best[at]!)) return;
    if (this.best[at] === Infinity) this.touched.push(at);
    this.best[at] = distance;
    this.piece[at] = piece;
  }

  /** Gives each point that a piece is near to, with how near and which, and forgets them. */
  done(give: (at: number, distance: number, piece: number) => void): void {
    for (const at of this.touched) {
      give(at, this.best[at]!, this.piece[at]!);
      this.best[at] = Infinity;
    }
    this.touched.length = 0;
  }
}

/** Grid points, from first to last, that lie within a radius of what reaches from one number to another. */
function within(
  [a, b]: readonly [number, number],
  radius: number,
  [origin, step, count]: readonly [number, number, number],
): [first: number, last: number] {
  // One more at each end, so that rounding leaves none out.
  const first = Math.floor((Math.min(a, b) - radius - origin) / step) - 1;
  const last = Math.ceil((Math.max(a, b) + radius - origin) / step) + 1;
  return [Math.max(0, first), Math.min(count - 1, last)];
}

/** So many pieces of a stroke are laid between two words of how far it is. */
const EVERY = 64;

/** How much a stroke counts at a part of its radius that is left, 0 to 1. */
const weightOf = (near: number): number => near * near * (3 - 2 * near);

function lay(
  flow: Flow,
  { points, radius, strength }: FlatStroke,
  nearest: Nearest,
  tell: (done: number) => void,
): void {
  const axis = [0, 1 / (GRID - 1), GRID] as const;
  for (let s = 0; s < points.length / 2 - 1; s++) {
    if (s % EVERY === 0) tell((2 * s) / points.length);
    const [ax, ay, bx, by] = points.slice(2 * s, 2 * s + 4) as [number, number, number, number];
    const [wx, wy] = [bx - ax, by - ay];
    const length = wx * wx + wy * wy;
    if (length === 0) continue;
    const [left, right] = within([ax, bx], radius, axis);
    const [top, bottom] = within([ay, by], radius, axis);
    for (let j = top; j <= bottom; j++) {
      for (let i = left; i <= right; i++) {
        const [u, v] = [i / (GRID - 1), j / (GRID - 1)];
        const t = Math.min(1, Math.max(0, ((u - ax) * wx + (v - ay) * wy) / length));
        const [x, y] = [u - ax - t * wx, v - ay - t * wy];
        if (!nearest.wants(j * GRID + i, x * x + y * y)) continue;
        nearest.take(j * GRID + i, Math.hypot(x, y), s);
      }
    }
  }
  nearest.done((at, distance, s) => {
    const near = 1 - distance / radius;
    if (near <= 0) return;
    const [wx, wy] = [points[2 * s + 2]! - points[2 * s]!, points[2 * s + 3]! - points[2 * s + 1]!];
    const long = Math.sqrt(wx * wx + wy * wy);
    const weight = weightOf(near);
    flow.x[at] = flow.x[at]! + (strength * (wx / long) - flow.x[at]!) * weight;
    // Rows go down, the flow's own y goes up.
    flow.y[at] = flow.y[at]! + (-strength * (wy / long) - flow.y[at]!) * weight;
  });
}

/** Grid points along each side of the space round strokes on a surface. */
export const DEEP = 32;

type Point = [number, number, number];

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
  const nearest = new Nearest(DEEP ** 3);
  strokes.forEach((stroke, i) => {
    layInSpace(flow, stroke, nearest, (done) => {
      reportProgress('strokes on a surface', (i + done) / strokes.length);
    });
  });
  return flow;
}

function layInSpace(
  { origin, step, values }: SpaceFlow,
  { places, radius, strength }: SpaceStroke,
  nearest: Nearest,
  tell: (done: number) => void,
): void {
  const sideOf = (s: number): Point => [
    places[s + 3]! - places[s]!,
    places[s + 4]! - places[s + 1]!,
    places[s + 5]! - places[s + 2]!,
  ];
  for (let s = 0; s + 5 < places.length; s += 3) {
    if (s % (3 * EVERY) === 0) tell(s / places.length);
    const side = sideOf(s);
    const length = side[0] * side[0] + side[1] * side[1] + side[2] * side[2];
    if (length === 0) continue;
    const [px, py, pz] = [places[s]!, places[s + 1]!, places[s + 2]!];
    const [x, y, z] = [0, 1, 2].map((k) =>
      within([places[s + k]!, places[s + 3 + k]!], radius, [origin[k]!, step[k]!, DEEP]),
    ) as [[number, number], [number, number], [number, number]];
    for (let c = z[0]; c <= z[1]; c++) {
      for (let b = y[0]; b <= y[1]; b++) {
        for (let a = x[0]; a <= x[1]; a++) {
          const [u, v, w] = [
            origin[0] + a * step[0] - px,
            origin[1] + b * step[1] - py,
            origin[2] + c * step[2] - pz,
          ];
          const along = (side[0] * u + side[1] * v + side[2] * w) / length;
          const t = Math.min(1, Math.max(0, along));
          const [i, j, k] = [u - t * side[0], v - t * side[1], w - t * side[2]];
          const at = (c * DEEP + b) * DEEP + a;
          if (!nearest.wants(at, i * i + j * j + k * k)) continue;
          nearest.take(at, Math.hypot(i, j, k), s);
        }
      }
    }
  }
  nearest.done((at, distance, s) => {
    if (distance >= radius) return;
    const side = sideOf(s);
    const long = Math.sqrt(side[0] * side[0] + side[1] * side[1] + side[2] * side[2]);
    const weight = weightOf(1 - distance / radius);
    values.forEach((axis, k) => {
      axis[at] = axis[at]! + (strength * (side[k]! / long) - axis[at]!) * weight;
    });
  });
}
