import type { CameraPose, Vector } from '@vast-swarm/core';

/** The place on a plane that a spot of the picture shows, or null where it shows none of it. */
export function onPlane(
  camera: CameraPose,
  size: { width: number; height: number },
  x: number,
  y: number,
  through: Vector,
  normal: Vector,
): Vector | null {
  const focal = camera.focal * size.height;
  const [a, b] = [(x - size.width / 2) / focal, (size.height / 2 - y) / focal];
  const ray = camera.forward.map((f, i) => f + camera.right[i]! * a + camera.up[i]! * b);
  const dot = (u: readonly number[], v: readonly number[]): number =>
    u.reduce((s, c, i) => s + c * v[i]!, 0);
  const down = dot(ray, normal);
  if (Math.abs(down) < 1e-6) return null;
  const offset = through.map((c, i) => c - camera.eye[i]!);
  const t = dot(offset, normal) / down;
  return t > 0 ? (camera.eye.map((e, i) => e + ray[i]! * t) as Vector) : null;
}
