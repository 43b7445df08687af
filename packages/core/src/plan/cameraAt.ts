import type { Vector } from '../feeds/feeds';
import type { Scene } from './scene';

/** Where the camera stands at a time: world frame, right-handed, y up; unit vectors. */
export interface CameraPose {
  eye: Vector;
  right: Vector;
  up: Vector;
  forward: Vector;
  /** Pixels per metre at a distance of one metre, for a frame one pixel high. */
  focal: number;
  /** Metres within which things fade. */
  near: number;
}

export function cameraAt(scene: Scene, time: number): CameraPose {
  const { dials } = scene.piece.camera;
  const dial = (key: string): number => scene.number(dials[key], time);
  const target = scene.vector(dials.target, time);
  const turn = ((dial('azimuth') + dial('orbit') * time) * Math.PI) / 180;
  const lift = (dial('elevation') * Math.PI) / 180;
  const forward: Vector = [
    -Math.sin(turn) * Math.cos(lift),
    -Math.sin(lift),
    -Math.cos(turn) * Math.cos(lift),
  ];
  const right: Vector = [Math.cos(turn), 0, -Math.sin(turn)];
  const up: Vector = [
    -Math.sin(turn) * Math.sin(lift),
    Math.cos(lift),
    -Math.cos(turn) * Math.sin(lift),
  ];
  const eye = target.map((t, i) => t - forward[i]! * dial('distance')) as Vector;
  const focal = 0.5 / Math.tan((dial('view') * Math.PI) / 360);
  return { eye, right, up, forward, focal, near: dial('near') };
}
