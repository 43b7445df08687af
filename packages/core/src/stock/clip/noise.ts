/** Noise in plain numbers, of additions, multiplications and roots alone: the same bits on every machine. */

/** A number in [0, 1) for a point of a lattice. */
export function latticeRandom(x: number, y: number, z: number, seed: number): number {
  let h = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f) ^ seed;
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 2 ** 32;
}

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** The part that one corner of a lattice has: one of twelve slopes, along the edges of a cube. */
function slope(h: number, x: number, y: number, z: number): number {
  const k = Math.floor(h * 12);
  const [a, b] = k < 4 ? [x, y] : k < 8 ? [y, z] : [z, x];
  return ((k & 1) === 0 ? a : -a) + ((k & 2) === 0 ? b : -b);
}

/** Gradient noise in three dimensions, about 0 to 1 and 0.5 in the middle (K. Perlin, "Improving noise", 2002). */
export function gradientNoise(x: number, y: number, z: number, seed: number): number {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [px, py, pz] = [x - ix, y - iy, z - iz];
  const [fx, fy, fz] = [fade(px), fade(py), fade(pz)];
  const corner = (i: number, j: number, k: number): number =>
    slope(latticeRandom(ix + i, iy + j, iz + k, seed), px - i, py - j, pz - k);
  const along = (j: number, k: number): number => {
    const a = corner(0, j, k);
    return a + (corner(1, j, k) - a) * fx;
  };
  const layer = (k: number): number => {
    const a = along(0, k);
    return a + (along(1, k) - a) * fy;
  };
  const a = layer(0);
  return 0.5 + 0.5 * (a + (layer(1) - a) * fz);
}

/** Distances of a place to the nearest and the second nearest of points that are scattered, one in each cell (S. Worley, 1996). */
export function nearestPoints(
  x: number,
  y: number,
  z: number,
  seed: number,
): [nearest: number, second: number] {
  const [ix, iy] = [Math.floor(x), Math.floor(y)];
  let [nearest, second] = [Infinity, Infinity];
  for (let j = iy - 1; j <= iy + 1; j++) {
    for (let i = ix - 1; i <= ix + 1; i++) {
      // Points wander with z, each on a way of its own.
      const px = i + gradientNoise(i * 7.31, j * 3.17, z, seed);
      const py = j + gradientNoise(i * 5.93, j * 9.71, z, seed ^ 0x5bd1);
      const far = Math.sqrt((px - x) * (px - x) + (py - y) * (py - y));
      if (far < nearest) [nearest, second] = [far, nearest];
      else if (far < second) second = far;
    }
  }
  return [nearest, second];
}
