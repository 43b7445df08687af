import { windowed, type Flow, type Grid } from '../../packages/core/src/stock/clip/opticalFlow';

/** The method of opticalFlow.ts in plain loops: what it is held to, and measured against. */

/** Pictures smaller than this are not halved again. */
const SMALLEST = 12;
/** Looks at each size, each with what the one before it found; the finest has little left to find. */
const [LOOKS, FINEST_LOOKS] = [4, 2];
/** Half the side of the window about a cell that moves as one. */
const WINDOW = 3;
/** Below this a window has too little to be seen: what larger windows found stays. */
const FLAT = 2e-4;

/**
 * Dense optical flow from one picture to another of the same size, from coarse to fine: at each size a window
 * about each cell is moved to where it fits best by least squares, warped, and looked at again (B. D. Lucas and
 * T. Kanade, "An iterative image registration technique", 1981; J.-Y. Bouguet, "Pyramidal implementation of the
 * affine Lucas Kanade feature tracker", 2000). Nothing but additions, multiplications and divisions: the same
 * bits on every machine. Equal pictures give 0.
 */
export function plainFlow(before: Grid, after: Grid): Flow {
  const [befores, afters] = [pyramidOf(before), pyramidOf(after)];
  let flow: Flow | null = null;
  for (let level = befores.length - 1; level >= 0; level--) {
    const [from, to] = [befores[level]!, afters[level]!];
    flow = refined(
      from,
      to,
      flow ? doubled(flow, to) : still(to),
      level > 0 ? LOOKS : FINEST_LOOKS,
    );
  }
  return flow!;
}

function still({ width, height }: Grid): Flow {
  const count = width * height;
  return { width, height, x: new Float32Array(count), y: new Float32Array(count) };
}

function pyramidOf(finest: Grid): Grid[] {
  const levels = [finest];
  for (;;) {
    const { width, height, values } = levels.at(-1)!;
    if (Math.min(width, height) < 2 * SMALLEST) return levels;
    const [w, h] = [width >> 1, height >> 1];
    // Smoothed first (1 3 3 1 each way): what is too fine to be halved would be seen as something else.
    const soft = blurred(values, width, height);
    const half = new Float32Array(w * h);
    for (let j = 0; j < h; j++) {
      for (let i = 0; i < w; i++) {
        const at = 2 * j * width + 2 * i;
        half[j * w + i] =
          (soft[at]! + soft[at + 1]! + soft[at + width]! + soft[at + width + 1]!) / 4;
      }
    }
    levels.push({ width: w, height: h, values: half });
  }
}

/** 1 2 1 along rows and columns. */
function blurred(values: Float32Array, width: number, height: number): Float32Array {
  const [across, out] = [new Float32Array(values.length), new Float32Array(values.length)];
  const along = (
    from: Float32Array,
    to: Float32Array,
    start: number,
    count: number,
    step: number,
  ): void => {
    for (let i = 0; i < count; i++) {
      const at = start + i * step;
      const before = i > 0 ? at - step : at;
      const after = i < count - 1 ? at + step : at;
      to[at] = (from[before]! + 2 * from[at]! + from[after]!) / 4;
    }
  };
  for (let j = 0; j < height; j++) along(values, across, j * width, width, 1);
  for (let i = 0; i < width; i++) along(across, out, i, height, width);
  return out;
}

/** A flow at twice the size, straight between its cells. */
function doubled(flow: Flow, { width, height }: Grid): Flow {
  const larger = (values: Float32Array): Float32Array => {
    const grid = { width: flow.width, height: flow.height, values };
    const out = new Float32Array(width * height);
    for (let j = 0, at = 0; j < height; j++) {
      for (let i = 0; i < width; i++, at++) {
        out[at] = 2 * valueAt(grid, i / 2 - 0.25, j / 2 - 0.25);
      }
    }
    return out;
  };
  return { width, height, x: larger(flow.x), y: larger(flow.y) };
}

/** Straight between cells; the border goes on outside. */
function valueAt({ width, height, values }: Grid, x: number, y: number): number {
  const cx = x < 0 ? 0 : x > width - 1 ? width - 1 : x;
  const cy = y < 0 ? 0 : y > height - 1 ? height - 1 : y;
  const i = cx | 0;
  const j = cy | 0;
  const right = i < width - 1 ? 1 : 0;
  const below = j < height - 1 ? width : 0;
  const at = j * width + i;
  const [fx, fy] = [cx - i, cy - j];
  const top = values[at]! + (values[at + right]! - values[at]!) * fx;
  const bottom = values[at + below]! + (values[at + below + right]! - values[at + below]!) * fx;
  return top + (bottom - top) * fy;
}

/** Slopes by central differences. */
function slopesOf({ width, height, values }: Grid): [Float32Array, Float32Array] {
  const [gx, gy] = [new Float32Array(values.length), new Float32Array(values.length)];
  for (let j = 0, at = 0; j < height; j++) {
    const up = j > 0 ? width : 0;
    const down = j < height - 1 ? width : 0;
    for (let i = 0; i < width; i++, at++) {
      const left = i > 0 ? 1 : 0;
      const right = i < width - 1 ? 1 : 0;
      gx[at] = (values[at + right]! - values[at - left]!) / 2;
      gy[at] = (values[at + down]! - values[at - up]!) / 2;
    }
  }
  return [gx, gy];
}

/** One size: looks again and again, each time with the earlier picture moved by what is known so far. */
function refined(before: Grid, after: Grid, flow: Flow, looks: number): Flow {
  const { width, height, values } = after;
  const count = width * height;
  const [gx, gy] = slopesOf(after);
  const product = (a: Float32Array, b: Float32Array): Float32Array => {
    const out = new Float32Array(count);
    for (let i = 0; i < count; i++) out[i] = a[i]! * b[i]!;
    return windowed(out, width, height, WINDOW);
  };
  const [xx, xy, yy] = [product(gx, gx), product(gx, gy), product(gy, gy)];
  const [ex, ey] = [new Float32Array(count), new Float32Array(count)];
  for (let look = 0; look < looks; look++) {
    for (let j = 0, at = 0; j < height; j++) {
      for (let i = 0; i < width; i++, at++) {
        const [x, y] = [i - flow.x[at]!, j - flow.y[at]!];
        // What has come in from outside fits to nothing.
        const outside = x < 0 || y < 0 || x > width - 1 || y > height - 1;
        const off = outside ? 0 : values[at]! - valueAt(before, x, y);
        ex[at] = gx[at]! * off;
        ey[at] = gy[at]! * off;
      }
    }
    const [sx, sy] = [ex, ey].map((e) => windowed(e, width, height, WINDOW)) as [
      Float32Array,
      Float32Array,
    ];
    for (let at = 0; at < count; at++) {
      const [a, b, c] = [xx[at]! + FLAT, xy[at]!, yy[at]! + FLAT];
      const determinant = a * c - b * b;
      const dx = (b * sy[at]! - c * sx[at]!) / determinant;
      const dy = (b * sx[at]! - a * sy[at]!) / determinant;
      // A look goes no further than what its slopes can tell.
      flow.x[at]! += dx < -1 ? -1 : dx > 1 ? 1 : dx;
      flow.y[at]! += dy < -1 ? -1 : dy > 1 ? 1 : dy;
    }
    flow.x = windowed(flow.x, width, height, 1);
    flow.y = windowed(flow.y, width, height, 1);
  }
  return flow;
}
