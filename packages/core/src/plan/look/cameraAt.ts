import type { CameraPose } from '../../language/frame';
import { kindOf } from '../../sections';
import { cameraDials } from '../../sections/scene/cameras/lens';
import { gone, looped, periodOf } from '../../feeds/loop';
import { valuesOf, type KeysOf } from '../../language/dials';
import { randomKey } from '@vast-swarm/kernel';
import type { FrameFeed, Vector } from '../../feeds/feeds';
import { noiseAt } from '../../formula/numbers';
import { pointAlong } from '../../stock/places/along';
import type { Piece } from '../../piece/types';
import type { World } from '../../language/world';

/** The readers of dials that a camera needs. */
export type Seen = Pick<World, 'seed' | 'number' | 'vector' | 'stock'> & { readonly piece: Piece };

const DEGREE = Math.PI / 180;

function cross(a: Vector, b: Vector): Vector {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function unit(v: Vector): Vector {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
}

function minus(a: Vector, b: Vector): Vector {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

interface Stand {
  eye: Vector;
  forward: Vector;
}

/** On its line, a little back from the end so that there is always something ahead. */
function flying(scene: Seen, time: number, target: Vector): Stand | null {
  const dials = valuesOf(cameraDials, scene.piece.camera.dials);
  const line = dials.along ? scene.stock(dials.along) : undefined;
  if (line?.type !== 'outline') return null;
  const progress = scene.number(dials.progress, time);
  const eye = pointAlong(line, progress);
  const step = 0.01;
  const [from, to] = [Math.min(progress, 1 - step), Math.min(progress + step, 1)];
  const ahead = minus(pointAlong(line, to), pointAlong(line, from));
  return { eye, forward: unit(dials.looks === 'target' ? minus(target, eye) : ahead) };
}

export function cameraAt(scene: Seen, time: number): CameraPose {
  const { camera, frame } = scene.piece;
  const period = periodOf(frame);
  const dials = valuesOf(cameraDials, camera.dials);
  const dial = (key: KeysOf<typeof cameraDials, 'number'>): number =>
    scene.number(dials[key], time);
  const target = scene.vector(dials.target, time);
  const shake = dial('shake');
  const sway = (purpose: string): number => {
    if (shake === 0) return 0;
    const key = randomKey(`camera.${purpose}`, scene.seed);
    const noise = (t: number): number => noiseAt(t * dials.shakeSpeed, key);
    return shake * looped(noise, period)(time);
  };
  const distance = dial('distance');
  const turn =
    (dial('azimuth') + gone(dial('orbit'), time, period, 360) + sway('azimuth')) * DEGREE;
  const lift = (dial('elevation') + sway('elevation')) * DEGREE;
  const round: Vector = [
    -Math.sin(turn) * Math.cos(lift),
    -Math.sin(lift),
    -Math.cos(turn) * Math.cos(lift),
  ];
  const orbiting: Stand = {
    eye: target.map((t, i) => t - round[i]! * distance) as Vector,
    forward: round,
  };
  const { eye, forward } = flying(scene, time, target) ?? orbiting;
  // Looking straight up or down, right is where it was on the way there.
  const level: Vector =
    Math.abs(forward[1]) > 0.9999 ? [Math.sin(turn), 0, Math.cos(turn)] : [0, 1, 0];
  const flat = unit(cross(forward, level));
  const top = cross(flat, forward);
  const roll = (dial('roll') + sway('roll')) * DEGREE;
  const [c, s] = [Math.cos(roll), Math.sin(roll)];
  const { perspective, focal } = kindOf('cameras', camera.kind);
  return {
    eye,
    right: flat.map((v, i) => c * v + s * top[i]!) as Vector,
    up: top.map((v, i) => c * v - s * flat[i]!) as Vector,
    forward,
    perspective,
    focal: focal((key) => scene.number(camera.dials[key] as FrameFeed, time)),
    distance,
    near: dial('near'),
    lens: {
      aperture: dial('aperture'),
      focus: dial('focus'),
      blades: dials.blades,
      turn: dial('bladeTurn') * DEGREE,
      ratio: dial('ratio'),
    },
  };
}

/** Directions to the flats of an opening of that many blades, each over its distance. */
export function flatsOf(blades: number, turn: number): number[] {
  return Array.from({ length: blades }, (_, i) => {
    const angle = turn + ((i + 0.5) * 2 * Math.PI) / blades;
    const distance = Math.cos(Math.PI / blades);
    return [Math.cos(angle) / distance, Math.sin(angle) / distance];
  }).flat();
}
