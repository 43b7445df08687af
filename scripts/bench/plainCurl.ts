/**
 * The curl-noise step as a programmer would write it in plain JavaScript, one particle at a time:
 * the same lattice, hash and gradients as the kernel's, in double precision.
 */

const [PX, PY, PZ] = [0x1b873593, 0x19d699a5, 0x27d4eb2d];
const MIDDLE = 511.5;
const out = new Float64Array(3);

function gradient(
  x: number,
  y: number,
  z: number,
  seed: number,
  c: number,
  s: number,
  aboutX: boolean,
): void {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const dx = x - ix;
  const dy = y - iy;
  const dz = z - iz;
  const u = dx * dx * dx * (dx * (dx * 6 - 15) + 10);
  const v = dy * dy * dy * (dy * (dy * 6 - 15) + 10);
  const w = dz * dz * dz * (dz * (dz * 6 - 15) + 10);
  const du = 30 * dx * dx * (dx * (dx - 2) + 1);
  const dv = 30 * dy * dy * (dy * (dy - 2) + 1);
  const dw = 30 * dz * dz * (dz * (dz - 2) + 1);
  const hx = Math.imul(ix, PX);
  const hy = Math.imul(iy, PY);
  const hz = Math.imul(iz, PZ);
  let gx = 0;
  let gy = 0;
  let gz = 0;
  for (let k = 0; k < 2; k++) {
    const wz = k ? w : 1 - w;
    const sz = k ? dw : -dw;
    for (let j = 0; j < 2; j++) {
      const wy = j ? v : 1 - v;
      const sy = j ? dv : -dv;
      for (let i = 0; i < 2; i++) {
        const wx = i ? u : 1 - u;
        const sx = i ? du : -du;
        let h = (hx + (i ? PX : 0)) ^ (hy + (j ? PY : 0)) ^ (hz + (k ? PZ : 0)) ^ seed;
        h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
        h ^= h >>> 14;
        const a = ((h >>> 2) & 1023) - MIDDLE;
        const b = ((h >>> 12) & 1023) - MIDDLE;
        const d = ((h >>> 22) & 1023) - MIDDLE;
        const p = a * c - b * s;
        const q = a * s + b * c;
        const ax = aboutX ? d : p;
        const ay = aboutX ? p : q;
        const az = aboutX ? q : d;
        const dot = ax * (dx - i) + ay * (dy - j) + az * (dz - k);
        gx += wy * wz * (wx * ax + sx * dot);
        gy += wx * wz * (wy * ay + sy * dot);
        gz += wx * wy * (wz * az + sz * dot);
      }
    }
  }
  out[0] = gx / MIDDLE;
  out[1] = gy / MIDDLE;
  out[2] = gz / MIDDLE;
}

export function plainCurlStep(
  px: Float32Array,
  py: Float32Array,
  pz: Float32Array,
  scale: number,
  dt: number,
  seed: number,
  c: number,
  s: number,
): void {
  for (let i = 0; i < px.length; i++) {
    const [x, y, z] = [px[i]! * scale, py[i]! * scale, pz[i]! * scale];
    gradient(x, y, z, seed, c, s, false);
    const [ax, ay, az] = [out[0]!, out[1]!, out[2]!];
    gradient(x, y, z, seed ^ 0x5bd1e995, c, s, true);
    const [bx, by, bz] = [out[0]!, out[1]!, out[2]!];
    const k = dt * 1.668;
    px[i]! += k * (ay * bz - az * by);
    py[i]! += k * (az * bx - ax * bz);
    pz[i]! += k * (ax * by - ay * bx);
  }
}
