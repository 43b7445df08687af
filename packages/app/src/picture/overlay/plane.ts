import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Vector } from '@vast-swarm/core/feeds';

/** The way from the eye through a spot of the picture: one metre forward, and so much aside. */
export function wayThrough(
  camera: CameraPose,
  size: { width: number; height: number },
  x: number,
  y: number,
): Vector {
  const focal = camera.focal * size.height;
  const [a, b] = [(x - size.width / 2) / focal, (size.height / 2 - y) / focal];
  return camera.forward.map((f, i) => f + camera.right[i]! * a + camera.up[i]! * b) as Vector;
}

/** The place on a plane that a spot of the picture shows, or null where it shows none of it. */
export function onPlane(
  camera: CameraPose,
  size: { width: number; height: number },
  x: number,
  y: number,
  through: Vector,
  normal: Vector,
): Vector | null {
  const ray = wayThrough(camera, size, x, y);
  const dot = (u: readonly number[], v: readonly number[]): number =>
    u.reduce((s, c, i) => s + c * v[i]!, 0);
  const down = dot(ray, normal);
  if (Math.abs(down) < 1e-6) return null;
  const offset = through.map((c, i) => c - camera.eye[i]!);
  const t = dot(offset, normal) / down;
  return t > 0 ? (camera.eye.map((e, i) => e + ray[i]! * t) as Vector) : null;
}
