import type { Piece, Vector } from '@vast-swarm/core';
import { cameraAt } from '@vast-swarm/core';

type Camera = Piece['camera'];

function withDials(camera: Camera, dials: Camera['dials']): Camera {
  return { ...camera, dials: { ...camera.dials, ...dials } };
}

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** Round the target by a drag in CSS pixels: half a degree each. */
export function orbited(camera: Camera, dx: number, dy: number): Camera {
  const azimuth = round((camera.dials.azimuth as number) - dx * 0.4);
  const lift = (camera.dials.elevation as number) + dy * 0.4;
  return withDials(camera, { azimuth, elevation: round(Math.min(89, Math.max(-89, lift))) });
}

/** Sideways and up by a drag in CSS pixels, so that the target keeps under the pointer. */
export function panned(
  camera: Camera,
  dx: number,
  dy: number,
  height: number,
  time: number,
): Camera {
  const { right, up, focal } = cameraAt(camera, time);
  const metres = (camera.dials.distance as number) / (focal * height);
  const target = (camera.dials.target as Vector).map((t, i) =>
    round(t - right[i]! * dx * metres + up[i]! * dy * metres),
  );
  return withDials(camera, { target: target as Vector });
}

/** Nearer or farther. */
export function moved(camera: Camera, wheel: number): Camera {
  const distance = (camera.dials.distance as number) * Math.exp(wheel * 0.001);
  return withDials(camera, { distance: round(Math.min(5000, Math.max(0.05, distance))) });
}

/** The target at a place, from a distance at which something of that size is well in view. */
export function framed(camera: Camera, centre: Vector, size: number): Camera {
  return withDials(camera, { target: centre, distance: Math.max(0.5, round(size * 3.2)) });
}
