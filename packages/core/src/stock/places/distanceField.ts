import { isClosed } from './meshParts';
import { boundsOf } from '../points';
import { memo, remembered } from '../memo';
import type { Mesh } from '../types';

/**
 * A signed distance field on a grid: metres to the mesh, below 0 inside where it is closed; never
 * below 0 where it is open.
 */
export interface Field {
  /** Grid points along x, y and z. */
  size: [number, number, number];
  /** Place of the first grid point, and the distance from one to the next. */
  origin: [number, number, number];
  step: number;
  /** x runs fastest. */
  values: Float32Array;
  closed: boolean;
}

/** Length of the way to a neighbour along one, two and three axes, in steps. */
const FAR = [0, 1, Math.SQRT2, Math.sqrt(3)];
/** Grid cells kept free round the mesh. */
const MARGIN = 3;

/**
 * Builds the field: exact distances in the cells round each triangle, carried on to the rest of the
 * grid with the triangle they came from, and signs by counting the faces that lines along x go
 * through. Source: R. Bridson, "Fluid Simulation for Computer Graphics", 2nd ed. 2015, ch. 4;
 * distance to a triangle: C. Ericson, "Real-Time Collision Detection", 2005, 5.1.5.
 * Gives its progress, 0 to 1, as it goes.
 * @param detail cells along the mesh's longest side
 */
export function* buildField(mesh: Mesh, detail: number): Generator<number, Field> {
  const [low, high] = boundsOf(mesh.positions);
  const longest = Math.max(1e-6, ...high.map((h, i) => h - low[i]!));
  const step = longest / detail;
  const size = high.map(
    (h, i) => Math.ceil((h - low[i]!) / step) + 1 + 2 * MARGIN,
  ) as Field['size'];
  const origin = low.map((l) => l - MARGIN * step) as Field['origin'];
  const closed = isClosed(mesh);
  const field: Field = { size, origin, step, closed, values: new Float32Array(0) };
  const worker = new Builder(mesh, field);
  yield* worker.band();
  yield* worker.sweep();
  if (closed) worker.signs();
  field.values = worker.distance;
  return field;
}

const keyOf = (detail: number): string => `field${String(detail)}`;

export function hasField(mesh: Mesh, detail: number): boolean {
  return remembered(mesh, keyOf(detail));
}

/** Keeps a field that was built bit by bit. */
export function keepField(mesh: Mesh, detail: number, field: Field): void {
  memo(mesh, keyOf(detail), () => field);
}

/** The field of a mesh, built at once where it has not been built yet. */
export function fieldOf(mesh: Mesh, detail: number): Field {
  return memo(mesh, keyOf(detail), () => {
    const work = buildField(mesh, detail);
    for (;;) {
      const { done, value } = work.next();
      if (done) return value;
    }
  });
}

class Builder {
  readonly distance: Float32Array<ArrayBuffer>;
  private readonly nearest: Int32Array<ArrayBuffer>;
  private readonly nx: number;
  private readonly ny: number;
  private readonly nz: number;

  constructor(
    private readonly mesh: Mesh,
    private readonly field: Field,
  ) {
    [this.nx, this.ny, this.nz] = field.size;
    const count = this.nx * this.ny * this.nz;
    this.distance = new Float32Array(count).fill(Infinity);
    this.nearest = new Int32Array(count).fill(-1);
  }

  private index(i: number, j: number, k: number): number {
    return i + this.nx * (j + this.ny * k);
  }

  /** Puts the distance from a grid point to a triangle where it is the least so far. */
  private offer(i: number, j: number, k: number, triangle: number): void {
    const { origin, step } = this.field;
    const d = distanceToTriangle(
      this.mesh,
      triangle,
      origin[0] + i * step,
      origin[1] + j * step,
      origin[2] + k * step,
    );
    const at = this.index(i, j, k);
    if (d < this.distance[at]!) {
      this.distance[at] = d;
      this.nearest[at] = triangle;
    }
  }

  *band(): Generator<number, void> {
    const { positions, triangles } = this.mesh;
    const { origin, step, size } = this.field;
    const count = triangles.length / 3;
    for (let t = 0; t < count; t++) {
      if (t % 2048 === 0) yield (0.5 * t) / count;
      const range = [0, 1, 2].map((axis) => {
        const at = [0, 1, 2].map((c) => positions[3 * triangles[3 * t + c]! + axis]!);
        const cell = (v: number): number => (v - origin[axis]!) / step;
        return [
          Math.max(0, Math.floor(cell(Math.min(...at))) - 1),
          Math.min(size[axis]! - 1, Math.ceil(cell(Math.max(...at))) + 1),
        ] as const;
      });
      for (let k = range[2]![0]; k <= range[2]![1]; k++) {
        for (let j = range[1]![0]; j <= range[1]![1]; j++) {
          for (let i = range[0]![0]; i <= range[0]![1]; i++) this.offer(i, j, k, t);
        }
      }
    }
  }

  /** Carries nearest triangles across the grid, from all eight corners. */
  *sweep(): Generator<number, void> {
    for (let pass = 0; pass < 8; pass++) {
      yield 0.5 + pass / 16;
      const [di, dj, dk] = [pass & 1, pass & 2, pass & 4].map((bit) => (bit ? -1 : 1)) as [
        number,
        number,
        number,
      ];
      for (let c = 1; c < this.nz; c++) {
        const k = dk > 0 ? c : this.nz - 1 - c;
        for (let b = 1; b < this.ny; b++) {
          const j = dj > 0 ? b : this.ny - 1 - b;
          for (let a = 1; a < this.nx; a++) {
            const i = di > 0 ? a : this.nx - 1 - a;
            const at = this.index(i, j, k);
            // Close to the mesh the first pass over the triangles was exact.
            if (this.distance[at]! <= this.field.step) continue;
            for (let side = 1; side < 8; side++) {
              const [x, y, z] = [side & 1, (side >> 1) & 1, side >> 2];
              this.from(i, j, k, this.index(i - di * x, j - dj * y, k - dk * z), FAR[x + y + z]!);
            }
          }
        }
      }
    }
  }

  /** Tries the triangle of a neighbour that is `far` steps away. */
  private from(i: number, j: number, k: number, neighbour: number, far: number): void {
    const triangle = this.nearest[neighbour]!;
    const at = this.index(i, j, k);
    if (triangle < 0 || triangle === this.nearest[at]) return;
    // The triangle cannot be nearer here than there by more than the way between.
    if (this.distance[neighbour]! - far * this.field.step >= this.distance[at]!) return;
    this.offer(i, j, k, triangle);
  }

  /** Inside is where a line along +x has gone through an odd number of faces. */
  signs(): void {
    const { positions, triangles } = this.mesh;
    const { origin, step } = this.field;
    const crossings = new Uint16Array(this.distance.length);
    // Lines a little off the grid, so that they do not run along edges between triangles.
    const off = [0.0001234, 0.0002871];
    for (let t = 0; t < triangles.length; t += 3) {
      const at = (c: number, axis: number): number => {
        const p = positions[3 * triangles[t + c]! + axis]!;
        return (p - origin[axis]!) / step;
      };
      const ys = [at(0, 1), at(1, 1), at(2, 1)];
      const zs = [at(0, 2), at(1, 2), at(2, 2)];
      for (let k = Math.max(0, Math.floor(Math.min(...zs))); k <= Math.max(...zs); k++) {
        for (let j = Math.max(0, Math.floor(Math.min(...ys))); j <= Math.max(...ys); j++) {
          if (j >= this.ny || k >= this.nz) continue;
          const w = weights(ys, zs, j + off[0]!, k + off[1]!);
          if (!w) continue;
          const x = w[0] * at(0, 0) + w[1] * at(1, 0) + w[2] * at(2, 0);
          const i = Math.max(0, Math.ceil(x));
          if (i < this.nx) crossings[this.index(i, j, k)]! += 1;
        }
      }
    }
    for (let row = 0; row < this.distance.length; row += this.nx) {
      let n = 0;
      for (let i = row; i < row + this.nx; i++) {
        n += crossings[i]!;
        if (n % 2 === 1) this.distance[i] = -this.distance[i]!;
      }
    }
  }
}

/** Barycentric weights of (y, z) in a triangle of the plane, or null outside it. */
function weights(
  ys: number[],
  zs: number[],
  y: number,
  z: number,
): [number, number, number] | null {
  const area = (a: number, b: number): number =>
    (ys[a]! - y) * (zs[b]! - z) - (ys[b]! - y) * (zs[a]! - z);
  const [u, v, w] = [area(1, 2), area(2, 0), area(0, 1)];
  const total = u + v + w;
  if (total === 0 || u * total < 0 || v * total < 0 || w * total < 0) return null;
  return [u / total, v / total, w / total];
}

/** Math.hypot guards against overflow that metres do not come near, at many times the cost. */
function length3(x: number, y: number, z: number): number {
  return Math.sqrt(x * x + y * y + z * z);
}

function distanceToTriangle(mesh: Mesh, t: number, x: number, y: number, z: number): number {
  const { positions: p, triangles } = mesh;
  const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
  const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
  const [ux, uy, uz] = [p[b]! - ax, p[b + 1]! - ay, p[b + 2]! - az];
  const [vx, vy, vz] = [p[c]! - ax, p[c + 1]! - ay, p[c + 2]! - az];
  const [wx, wy, wz] = [x - ax, y - ay, z - az];
  const d1 = ux * wx + uy * wy + uz * wz;
  const d2 = vx * wx + vy * wy + vz * wz;
  const uu = ux * ux + uy * uy + uz * uz;
  const uv = ux * vx + uy * vy + uz * vz;
  const vv = vx * vx + vy * vy + vz * vz;
  const away = (s: number, r: number): number =>
    length3(wx - s * ux - r * vx, wy - s * uy - r * vy, wz - s * uz - r * vz);
  if (d1 <= 0 && d2 <= 0) return away(0, 0);
  const [d3, d4] = [d1 - uu, d2 - uv];
  if (d3 >= 0 && d4 <= d3) return away(1, 0);
  const [d5, d6] = [d1 - uv, d2 - vv];
  if (d6 >= 0 && d5 <= d6) return away(0, 1);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return away(d1 / Math.max(1e-30, d1 - d3), 0);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return away(0, d2 / Math.max(1e-30, d2 - d6));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const r = (d4 - d3) / Math.max(1e-30, d4 - d3 + (d5 - d6));
    return away(1 - r, r);
  }
  const sum = Math.max(1e-30, va + vb + vc);
  return away(vb / sum, vc / sum);
}
