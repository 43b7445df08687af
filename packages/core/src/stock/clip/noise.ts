/** Noise in plain numbers, of additions, multiplications and roots alone: the same bits on every machine. */

/** A number in [0, 1) for a point of a lattice. */
export function latticeRandom(x: number, y: number, z: number, seed: number): number {
  let h = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f) ^ seed;
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 2 ** 32;
}

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** One of twelve slopes, along the edges of a cube. */
function slopeOf(h: number): readonly [number, number, number] {
  const k = Math.floor(h * 12);
  const [a, b] = [(k & 1) === 0 ? 1 : -1, (k & 2) === 0 ? 1 : -1];
  return k < 4 ? [a, b, 0] : k < 8 ? [0, a, b] : [b, 0, a];
}

/**
 * Gradient noise in three dimensions on the plane of one z, about 0 to 1 and 0.5 in the middle (K. Perlin,
 * "Improving noise", 2002). What both layers of the lattice about the plane have is one slope and one height for
 * each corner, found once; and the corners of the cell that was asked for last are at hand.
 */
export function noisePlane(z: number, seed: number): (x: number, y: number) => number {
  const iz = Math.floor(z);
  const [pz, fz] = [z - iz, fade(z - iz)];
  const known = new Map<number, readonly [number, number, number]>();
  /** x and y of its slope, and its height. */
  const corner = (i: number, j: number): readonly [number, number, number] => {
    const key = i * 65_536 + j;
    let found = known.get(key);
    if (!found) {
      const [a, b] = [0, 1].map((k) => slopeOf(latticeRandom(i, j, iz + k, seed)));
      const mixed = (c: number): number => a![c]! + (b![c]! - a![c]!) * fz;
      const [low, high] = [a![2] * pz, b![2] * (pz - 1)];
      known.set(key, (found = [mixed(0), mixed(1), low + (high - low) * fz]));
    }
    return found;
  };
  let [ix, iy] = [NaN, NaN];
  let [a, b, c, d] = [corner(0, 0), corner(0, 0), corner(0, 0), corner(0, 0)];
  return (x, y) => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    if (i !== ix || j !== iy) {
      [ix, iy] = [i, j];
      [a, b] = [corner(i, j), corner(i + 1, j)];
      [c, d] = [corner(i, j + 1), corner(i + 1, j + 1)];
    }
    const [px, py] = [x - i, y - j];
    const fx = fade(px);
    const left = a[0] * px + a[1] * py + a[2];
    const right = b[0] * (px - 1) + b[1] * py + b[2];
    const below = c[0] * px + c[1] * (py - 1) + c[2];
    const other = d[0] * (px - 1) + d[1] * (py - 1) + d[2];
    const top = left + (right - left) * fx;
    const bottom = below + (other - below) * fx;
    return 0.5 + 0.5 * (top + (bottom - top) * fade(py));
  };
}

/** A point in a cell of a plane, by the cell's column and row. */
type Points = (i: number, j: number) => readonly [number, number];

/** Points that are scattered, one in each cell of a plane, and wander with `at`, each on a way of its own. */
export function wanderingPoints(at: number, seed: number): Points {
  const known = new Map<number, readonly [number, number]>();
  const [across, down] = [noisePlane(at, seed), noisePlane(at, seed ^ 0x5bd1)];
  return (i, j) => {
    const key = i * 65_536 + j;
    let point = known.get(key);
    if (!point) {
      const x = across(i * 7.31 + 0.37, j * 3.17 + 0.71);
      const y = down(i * 5.93 + 0.19, j * 9.71 + 0.53);
      known.set(key, (point = [i + x, j + y]));
    }
    return point;
  };
}

/** Distances of a place to the nearest point and to the second nearest (S. Worley, "A cellular texture basis function", 1996). */
export function nearestTwo(points: Points): (x: number, y: number) => [number, number] {
  let [ix, iy] = [NaN, NaN];
  // The nine points about the cell that was asked for last, x and y in turn.
  const near = new Float64Array(18);
  return (x, y) => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    if (i !== ix || j !== iy) {
      [ix, iy] = [i, j];
      for (let k = 0; k < 9; k++)
        near.set(points(i + (k % 3) - 1, j + Math.floor(k / 3) - 1), 2 * k);
    }
    let [nearest, second] = [Infinity, Infinity];
    for (let k = 0; k < 18; k += 2) {
      const [dx, dy] = [near[k]! - x, near[k + 1]! - y];
      const far = dx * dx + dy * dy;
      if (far < nearest) {
        second = nearest;
        nearest = far;
      } else if (far < second) second = far;
    }
    return [Math.sqrt(nearest), Math.sqrt(second)];
  };
}
