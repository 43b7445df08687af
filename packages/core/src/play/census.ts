import type { CameraPose } from '../language/frame';
import type { Particles } from './particles';

/**
 * How many particles of a swarm there are on the way from birth to the picture: each number counts
 * those that also count in the one before.
 */
export interface Census {
  born: number;
  alive: number;
  /** Before the camera and inside the frame. */
  inFrame: number;
  /** Half a pixel or more across, on a frame of the piece's size. */
  largeEnough: number;
  /** Brighter than one step of an 8-bit picture. */
  brightEnough: number;
}

/** Linear light of the first step of 8-bit sRGB. */
const ONE_STEP = 1 / 255 / 12.92;

export interface Frame {
  width: number;
  height: number;
}

/** Place in the frame in pixels and pixels a metre there, or null behind the camera. */
export function project(
  camera: CameraPose,
  { width, height }: Frame,
  p: readonly [number, number, number],
): [x: number, y: number, zoom: number] | null {
  const offset = p.map((c, i) => c - camera.eye[i]!);
  const along = (axis: readonly number[]): number =>
    offset.reduce((s, c, i) => s + c * axis[i]!, 0);
  const depth = along(camera.forward);
  if (depth < 1e-3) return null;
  const zoom = (camera.focal * height) / (camera.perspective ? depth : 1);
  return [width / 2 + along(camera.right) * zoom, height / 2 - along(camera.up) * zoom, zoom];
}

export function census(
  born: number,
  particles: Particles,
  camera: CameraPose,
  frame: Frame,
): Census {
  const { age, life, px, py, pz, size, red, green, blue, opacity } = particles;
  const counts: Census = { born, alive: 0, inFrame: 0, largeEnough: 0, brightEnough: 0 };
  for (let i = 0; i < age.length; i++) {
    if (!(age[i]! >= 0 && age[i]! < life[i]!)) continue;
    counts.alive += 1;
    const at = project(camera, frame, [px[i]!, py[i]!, pz[i]!]);
    if (!at) continue;
    const [x, y, zoom] = at;
    const reach = (size[i]! * zoom) / 2;
    const across = x > -reach && x < frame.width + reach;
    if (!across || y < -reach || y > frame.height + reach) continue;
    counts.inFrame += 1;
    if (size[i]! * zoom < 0.5) continue;
    counts.largeEnough += 1;
    if (Math.max(red[i]!, green[i]!, blue[i]!) * opacity[i]! < ONE_STEP) continue;
    counts.brightEnough += 1;
  }
  return counts;
}
