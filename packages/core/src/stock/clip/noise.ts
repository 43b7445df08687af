/** Noise in plain numbers, of additions, multiplications and roots alone: the same bits on every machine. */

/** A number in [0, 1) for a point of a lattice. */
export function latticeRandom(x: number, y: number, z: number, seed: number): number {
  let h = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f) ^ seed;
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 2 ** 32;
}

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** Value noise in three dimensions with a quintic fade: 0 to 1 (K. Perlin, "Improving noise", 2002, for the fade). */
export function valueNoise(x: number, y: number, z: number, seed: number): number {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [fx, fy, fz] = [fade(x - ix), fade(y - iy), fade(z - iz)];
  const along = (j: number, k: number): number => {
    const a = latticeRandom(ix, iy + j, iz + k, seed);
    return a + (latticeRandom(ix + 1, iy + j, iz + k, seed) - a) * fx;
  };
  const layer = (k: number): number => {
    const a = along(0, k);
    return a + (along(1, k) - a) * fy;
  };
  const a = layer(0);
  return a + (layer(1) - a) * fz;
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
      const px = i + valueNoise(i * 7.31, j * 3.17, z, seed);
      const py = j + valueNoise(i * 5.93, j * 9.71, z, seed ^ 0x5bd1);
      const far = Math.sqrt((px - x) * (px - x) + (py - y) * (py - y));
      if (far < nearest) [nearest, second] = [far, nearest];
      else if (far < second) second = far;
    }
  }
  return [nearest, second];
}
