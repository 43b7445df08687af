import type { CameraPose, Mesh, Vector } from '@vast-swarm/core';

/**
 * The place of a mesh, in its own frame, that a spot of the picture shows; null beside it. Source:
 * T. Möller, B. Trumbore, "Fast, Minimum Storage Ray/Triangle Intersection", JGT 2(1), 1997.
 */
export function onMesh(
  camera: CameraPose,
  size: { width: number; height: number },
  x: number,
  y: number,
  { positions: p, triangles }: Mesh,
  centre: Vector,
): Vector | null {
  const focal = camera.focal * size.height;
  const [a, b] = [(x - size.width / 2) / focal, (size.height / 2 - y) / focal];
  const ray = camera.forward.map((f, i) => f + camera.right[i]! * a + camera.up[i]! * b);
  const [dx, dy, dz] = ray as Vector;
  const [ex, ey, ez] = camera.eye.map((e, i) => e - centre[i]!) as Vector;
  let nearest = Infinity;
  for (let t = 0; t < triangles.length; t += 3) {
    const [i, j, k] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[j]! - p[i]!, p[j + 1]! - p[i + 1]!, p[j + 2]! - p[i + 2]!];
    const [vx, vy, vz] = [p[k]! - p[i]!, p[k + 1]! - p[i + 1]!, p[k + 2]! - p[i + 2]!];
    const [hx, hy, hz] = [dy * vz - dz * vy, dz * vx - dx * vz, dx * vy - dy * vx];
    const det = ux * hx + uy * hy + uz * hz;
    if (Math.abs(det) < 1e-12) continue;
    const [sx, sy, sz] = [ex - p[i]!, ey - p[i + 1]!, ez - p[i + 2]!];
    const u = (sx * hx + sy * hy + sz * hz) / det;
    if (u < 0 || u > 1) continue;
    const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
    const v = (dx * qx + dy * qy + dz * qz) / det;
    if (v < 0 || u + v > 1) continue;
    const way = (vx * qx + vy * qy + vz * qz) / det;
    if (way > 0 && way < nearest) nearest = way;
  }
  if (nearest === Infinity) return null;
  return [ex + dx * nearest, ey + dy * nearest, ez + dz * nearest];
}
