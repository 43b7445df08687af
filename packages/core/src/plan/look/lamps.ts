import { lampDials } from '../../sections/lights/lamp';
import { valuesOf } from '../../language/dials';
import { linearRgb, type Rgb } from '../../feeds/colour';
import type { Vector } from '../../feeds/feeds';
import { kindOf } from '../../sections';
import type { LightKind } from '../../sections/kinds';
import type { CameraPose, Lamps } from '../../language/frame';
import type { Scene } from '../scene';

/** Where the piece has no lights, a lamp over the camera's left shoulder. */
const DEFAULT: Lamps = {
  ambient: [0.12, 0.16, 0.18],
  lamps: [{ direction: [-0.45, 0.65, -0.61], colour: [1, 0.95, 0.88], rim: false }],
};

/** The same light everywhere, whatever way a surface is turned: for shapes alone. */
export const EVEN_LIGHT: Lamps = { ambient: [1, 1, 1], lamps: [] };

/** Most lights that count, ambient ones apart. */
export const MOST_LAMPS = 8;

/** World frame: unit vector towards a light from an azimuth and elevation in degrees. */
export function towards(azimuth: number, elevation: number): Vector {
  const [a, e] = [azimuth, elevation].map((d) => (d * Math.PI) / 180) as [number, number];
  return [Math.sin(a) * Math.cos(e), Math.sin(e), Math.cos(a) * Math.cos(e)];
}

function dot(a: Vector, b: Vector): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/** The lights as the camera sees them at a time in seconds. */
export function lampsAt(scene: Scene, pose: CameraPose, time: number): Lamps {
  const on = scene.piece.lights.filter((l) => l.on);
  if (scene.piece.lights.length === 0) return DEFAULT;
  const found: Lamps = { ambient: [0, 0, 0], lamps: [] };
  for (const { kind, dials } of on) {
    const { falls }: LightKind = kindOf('lights', kind);
    const values = valuesOf(lampDials, dials);
    const strength = scene.number(values.strength, time);
    const colour = linearRgb(values.colour).map((c) => c * strength) as Rgb;
    if (falls === 'everywhere') {
      found.ambient = found.ambient.map((c, i) => c + colour[i]!) as Rgb;
      continue;
    }
    const way = towards(scene.number(values.azimuth, time), scene.number(values.elevation, time));
    const held = values.held === 'camera';
    // With the camera, the front is where the eye is: against its forward.
    const direction: Vector = held
      ? [way[0], way[1], -way[2]]
      : [dot(way, pose.right), dot(way, pose.up), dot(way, pose.forward)];
    if (found.lamps.length < MOST_LAMPS) {
      found.lamps.push({ direction, colour, rim: falls === 'edge' });
    }
  }
  return found;
}
