import { cameraAt, type Scene } from '@vast-swarm/core/plan';
import type { DialValue, FrameFeed, Vector, VectorFeed } from '@vast-swarm/core/feeds';
import type { Piece } from '@vast-swarm/core/piece';

type Camera = Piece['camera'];

function withDials(camera: Camera, dials: Camera['dials']): Camera {
  return { ...camera, dials: { ...camera.dials, ...dials } };
}

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** A dial after a move; one that something drives is left to it. */
function change(value: DialValue | undefined, to: (v: number) => number): DialValue {
  return typeof value === 'number' ? round(to(value)) : value!;
}

/** Round the target by a drag in CSS pixels: half a degree each. */
export function orbited(camera: Camera, dx: number, dy: number): Camera {
  const { azimuth, elevation } = camera.dials;
  return withDials(camera, {
    azimuth: change(azimuth, (v) => v - dx * 0.4),
    elevation: change(elevation, (v) => Math.min(89, Math.max(-89, v + dy * 0.4))),
  });
}

/** Sideways and up by a drag in CSS pixels, so that the target keeps under the pointer. */
export function panned(scene: Scene, dx: number, dy: number, height: number, time: number): Camera {
  const { camera } = scene.piece;
  const { right, up, focal } = cameraAt(scene, time);
  const metres = scene.number(camera.dials.distance as FrameFeed, time) / (focal * height);
  const target = (camera.dials.target as VectorFeed).map((t, i) =>
    change(t, (v) => v - right[i]! * dx * metres + up[i]! * dy * metres),
  );
  return withDials(camera, { target: target as VectorFeed });
}

/** Nearer or farther. */
export function moved(camera: Camera, wheel: number): Camera {
  const nearer = (v: number): number => Math.min(5000, Math.max(0.05, v * Math.exp(wheel * 0.001)));
  return withDials(camera, { distance: change(camera.dials.distance, nearer) });
}

/** The target at a place, from a distance at which something of that size is well in view. */
export function framed(camera: Camera, centre: Vector, size: number): Camera {
  return withDials(camera, { target: centre, distance: Math.max(0.5, round(size * 3.2)) });
}
