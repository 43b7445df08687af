import { reportProgress } from '../../progress';
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
/** Steps from a triangle within which distances to it are exact, and a little against rounding. */
const REACH = 1 + 1e-6;
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
  field.values = Float32Array.from(worker.distance);
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
      reportProgress('the measures of a mesh', value);
    }
  });
}

/** The neighbours of a grid point that a pass has been at before it, by their sides. */
interface Back {
  /** How many grid points back each stands. */
  by: Int32Array;
  /** Metres to each. */
  far: Float64Array;
  /** The pass before in which each was tried last; below -1 where it was in none. */
  tried: Int32Array;
}

/**
 * The pass before in which a grid point's neighbour on a side of a pass was tried last: one that goes the same way along
 * the axes in which the two differ. What the neighbour has had since then need not be tried again.
 */
function triedBefore(pass: number, side: number): number {
  for (let before = pass - 1; before >= 0; before--)
    if (((before ^ pass) & side) === 0) return before;
  return -2;
}

class Builder {
  /** In double precision: rounded, a triangle that is as near as another would seem nearer. */
  readonly distance: Float64Array<ArrayBuffer>;
  private readonly nearest: Int32Array<ArrayBuffer>;
  /** The pass in which each grid point got its nearest triangle; -1 for one from before them. */
  private readonly changed: Int8Array<ArrayBuffer>;
  private pass = 0;
  private readonly to: Triangles;
  private readonly nx: number;
  private readonly ny: number;
  private readonly nz: number;

  constructor(
    private readonly mesh: Mesh,
    private readonly field: Field,
  ) {
    [this.nx, this.ny, this.nz] = field.size;
    const count = this.nx * this.ny * this.nz;
    this.distance = new Float64Array(count).fill(Infinity);
    this.nearest = new Int32Array(count).fill(-1);
    this.changed = new Int8Array(count).fill(-1);
    this.to = new Triangles(mesh, this.distance);
  }

  private index(i: number, j: number, k: number): number {
    return i + this.nx * (j + this.ny * k);
  }

  /** The grid points along an axis that a triangle may be within a step of, from first to last. */
  private range(t: number, axis: number): [number, number] {
    const { origin, step, size } = this.field;
    const { positions: p, triangles } = this.mesh;
    const a = p[3 * triangles[3 * t]! + axis]!;
    const b = p[3 * triangles[3 * t + 1]! + axis]!;
    const c = p[3 * triangles[3 * t + 2]! + axis]!;
    const first = Math.ceil((Math.min(a, b, c) - origin[axis]!) / step - REACH);
    const last = Math.floor((Math.max(a, b, c) - origin[axis]!) / step + REACH);
    return [Math.max(0, first), Math.min(size[axis]! - 1, last)];
  }

  *band(): Generator<number, void> {
    const { origin, step } = this.field;
    const { nearest, to } = this;
    const { place } = to;
    const count = this.mesh.triangles.length / 3;
    for (let t = 0; t < count; t++) {
      if (t % 2048 === 0) yield (0.5 * t) / count;
      const [i0, i1] = this.range(t, 0);
      const [j0, j1] = this.range(t, 1);
      const [k0, k1] = this.range(t, 2);
      for (let k = k0; k <= k1; k++) {
        place[2] = origin[2] + k * step;
        for (let j = j0; j <= j1; j++) {
          place[1] = origin[1] + j * step;
          const row = this.index(0, j, k);
          for (let i = i0; i <= i1; i++) {
            place[0] = origin[0] + i * step;
            if (to.nearer(t, row + i)) nearest[row + i] = t;
          }
        }
      }
    }
  }

  /** Carries nearest triangles across the grid, from all eight corners. */
  *sweep(): Generator<number, void> {
    const { nx, ny, nz } = this;
    for (let pass = 0; pass < 8; pass++) {
      yield 0.5 + pass / 16;
      const [di, dj, dk] = [pass & 1, pass & 2, pass & 4].map((bit) => (bit ? -1 : 1)) as [
        number,
        number,
        number,
      ];
      // The neighbours that were there before, one step along x, y, both and so on, as they stand in the grid.
      const back = Array.from({ length: 8 }, (_, side) => {
        const [x, y, z] = [side & 1, (side >> 1) & 1, side >> 2];
        return { by: di * x + nx * (dj * y + ny * dk * z), far: FAR[x + y + z]! * this.field.step };
      });
      const by = Int32Array.from(back, (n) => n.by);
      const far = Float64Array.from(back, (n) => n.far);
      const tried = Int32Array.from(back, (_, side) => triedBefore(pass, side));
      this.pass = pass;
      for (let c = 1; c < nz; c++) {
        const k = dk > 0 ? c : nz - 1 - c;
        for (let b = 1; b < ny; b++) {
          const j = dj > 0 ? b : ny - 1 - b;
          for (let a = 1; a < nx; a++)
            this.carry(di > 0 ? a : nx - 1 - a, j, k, { by, far, tried });
        }
      }
    }
  }

  /** Tries the triangles of the neighbours of a grid point. */
  private carry(i: number, j: number, k: number, { by, far, tried }: Back): void {
    const { distance, nearest, changed, to } = this;
    const { origin, step } = this.field;
    const at = this.index(i, j, k);
    // Passes begin behind the sides of the grid.
    const { nx, ny, nz } = this;
    const inside = i > 0 && j > 0 && k > 0 && i < nx - 1 && j < ny - 1 && k < nz - 1;
    // Close to the mesh the first pass over the triangles was exact.
    if (distance[at]! <= step) return;
    to.place[0] = origin[0] + i * step;
    to.place[1] = origin[1] + j * step;
    to.place[2] = origin[2] + k * step;
    for (let side = 1; side < 8; side++) {
      const neighbour = at - by[side]!;
      if (changed[neighbour]! <= tried[side]! && inside) continue;
      const triangle = nearest[neighbour]!;
      if (triangle < 0 || triangle === nearest[at]) continue;
      // The triangle cannot be nearer here than there by more than the way between.
      if (distance[neighbour]! - far[side]! >= distance[at]!) continue;
      if (!to.nearer(triangle, at)) continue;
      nearest[at] = triangle;
      changed[at] = this.pass;
    }
  }

  /** Inside is where a line along +x has gone through an odd number of faces. */
  signs(): void {
    const { positions, triangles } = this.mesh;
    const { origin, step } = this.field;
    const crossings = new Uint16Array(this.distance.length);
    // Lines a little off the grid, so that they do not run along edges between triangles.
    const off = [0.0001234, 0.0002871];
    const along = (corner: number, axis: number): number =>
      (positions[3 * triangles[corner]! + axis]! - origin[axis]!) / step;
    const [xs, ys, zs] = [0, 1, 2].map(() => new Float64Array(3)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    const part = new Float64Array(3);
    for (let t = 0; t < triangles.length; t += 3) {
      for (let c = 0; c < 3; c++) {
        xs[c] = along(t + c, 0);
        ys[c] = along(t + c, 1);
        zs[c] = along(t + c, 2);
      }
      const bottom = Math.max(0, Math.floor(Math.min(ys[0]!, ys[1]!, ys[2]!)));
      const top = Math.min(this.ny - 1, Math.max(ys[0]!, ys[1]!, ys[2]!));
      const front = Math.max(0, Math.floor(Math.min(zs[0]!, zs[1]!, zs[2]!)));
      const back = Math.min(this.nz - 1, Math.max(zs[0]!, zs[1]!, zs[2]!));
      for (let k = front; k <= back; k++) {
        for (let j = bottom; j <= top; j++) {
          if (!weights(ys, zs, j + off[0]!, k + off[1]!, part)) continue;
          const x = part[0]! * xs[0]! + part[1]! * xs[1]! + part[2]! * xs[2]!;
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

/** Finds the barycentric weights of (y, z) in a triangle of the plane; false outside it. */
function weights(
  ys: Float64Array,
  zs: Float64Array,
  y: number,
  z: number,
  found: Float64Array,
): boolean {
  const u = (ys[1]! - y) * (zs[2]! - z) - (ys[2]! - y) * (zs[1]! - z);
  const v = (ys[2]! - y) * (zs[0]! - z) - (ys[0]! - y) * (zs[2]! - z);
  const w = (ys[0]! - y) * (zs[1]! - z) - (ys[1]! - y) * (zs[0]! - z);
  const total = u + v + w;
  if (total === 0 || u * total < 0 || v * total < 0 || w * total < 0) return false;
  found[0] = u / total;
  found[1] = v / total;
  found[2] = w / total;
  return true;
}

/** Numbers of a triangle: a corner, the ways u and v from it to the other two, u·u, u·v, v·v, and its unit normal. */
const EACH = 15;

/** Against rounding, where a plane's distance is compared with one to a triangle in it. */
const LESS = 1 - 1e-6;

/** Triangles of a mesh, laid out so that distances to them are found fast. */
class Triangles {
  private readonly all: Float64Array;
  /** The place that distances are from: numbers that are given in a list need no memory of their own. */
  readonly place = new Float64Array(3);

  /** @param least metres from each grid point to the nearest triangle that was tried */
  constructor(
    { positions: p, triangles }: Mesh,
    private readonly least: Float64Array,
  ) {
    const count = triangles.length / 3;
    this.all = new Float64Array(EACH * count);
    for (let t = 0; t < count; t++) {
      const a = 3 * triangles[3 * t]!;
      const b = 3 * triangles[3 * t + 1]!;
      const c = 3 * triangles[3 * t + 2]!;
      const ux = p[b]! - p[a]!;
      const uy = p[b + 1]! - p[a + 1]!;
      const uz = p[b + 2]! - p[a + 2]!;
      const vx = p[c]! - p[a]!;
      const vy = p[c + 1]! - p[a + 1]!;
      const vz = p[c + 2]! - p[a + 2]!;
      const nx = uy * vz - uz * vy;
      const ny = uz * vx - ux * vz;
      const nz = ux * vy - uy * vx;
      // One without an area has no plane, and is never passed over by it.
      const area = Math.sqrt(nx * nx + ny * ny + nz * nz) || Infinity;
      const own = [
        p[a]!,
        p[a + 1]!,
        p[a + 2]!,
        ux,
        uy,
        uz,
        vx,
        vy,
        vz,
        ux * ux + uy * uy + uz * uz,
        ux * vx + uy * vy + uz * vz,
        vx * vx + vy * vy + vz * vz,
        nx / area,
        ny / area,
        nz / area,
      ];
      this.all.set(own, EACH * t);
    }
  }

  /** Whether a triangle is nearer to the place than those that were tried for a grid point; then that has its distance. */
  nearer(t: number, point: number): boolean {
    const { all, place, least } = this;
    const at = EACH * t;
    const limit = least[point]!;
    const ux = all[at + 3]!;
    const uy = all[at + 4]!;
    const uz = all[at + 5]!;
    const vx = all[at + 6]!;
    const vy = all[at + 7]!;
    const vz = all[at + 8]!;
    const wx = place[0]! - all[at]!;
    const wy = place[1]! - all[at + 1]!;
    const wz = place[2]! - all[at + 2]!;
    // Its plane is as far or farther.
    const off = all[at + 12]! * wx + all[at + 13]! * wy + all[at + 14]! * wz;
    if (Math.abs(off) * LESS >= limit) return false;
    const d1 = ux * wx + uy * wy + uz * wz;
    const d2 = vx * wx + vy * wy + vz * wz;
    // How far along u and v the nearest place of the triangle is.
    let s = 0;
    let r = 0;
    if (d1 > 0 || d2 > 0) {
      const d3 = d1 - all[at + 9]!;
      const d4 = d2 - all[at + 10]!;
      const d5 = d1 - all[at + 10]!;
      const d6 = d2 - all[at + 11]!;
      const va = d3 * d6 - d5 * d4;
      const vb = d5 * d2 - d1 * d6;
      const vc = d1 * d4 - d3 * d2;
      if (d3 >= 0 && d4 <= d3) s = 1;
      else if (d6 >= 0 && d5 <= d6) r = 1;
      else if (vc <= 0 && d1 >= 0 && d3 <= 0) s = d1 / Math.max(1e-30, d1 - d3);
      else if (vb <= 0 && d2 >= 0 && d6 <= 0) r = d2 / Math.max(1e-30, d2 - d6);
      else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        r = (d4 - d3) / Math.max(1e-30, d4 - d3 + (d5 - d6));
        s = 1 - r;
      } else {
        const sum = Math.max(1e-30, va + vb + vc);
        s = vb / sum;
        r = vc / sum;
      }
    }
    const i = wx - s * ux - r * vx;
    const j = wy - s * uy - r * vy;
    const k = wz - s * uz - r * vz;
    const distance = Math.sqrt(i * i + j * j + k * k);
    if (distance >= limit) return false;
    least[point] = distance;
    return true;
  }
}
