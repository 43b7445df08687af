import type { Expr, Vec3 } from '@vast-swarm/kernel';
import type { DialReader } from '../plan/dialReader';
import type { Dials, DialValues } from './dials';

/** What every catalogue file declares; the interface, the file schema and the plan read it. */
export interface Kind {
  kind: string;
  title: string;
  /** One line for the chooser. */
  help: string;
  /** Drawn in a square of 24 units with round strokes: the d of an SVG path. */
  icon: string;
  dials: Dials;
}

export interface Birthplace {
  /** Where the particle is born, in metres, world frame (right-handed, y up). */
  position: Vec3;
  /** Unit vector away from the emitter's surface there. */
  normal: Vec3;
}

export interface EmitterKind extends Kind {
  build(dial: DialReader): Birthplace;
}

export interface LaunchKind extends Kind {
  /** Velocity at birth in metres per second. `centre` is the emitter's own place. */
  build(dial: DialReader, place: Birthplace, centre: Vec3): Vec3;
}

export interface Moving {
  position: Vec3;
  velocity: Vec3;
  /** Length of this particle's step in seconds. */
  step: Expr;
  /** Time of the piece in seconds at the start of the step; the same for all particles. */
  time: Expr;
}

/** What a force does in one step; parts that are left out do nothing. */
export interface Effect {
  /** Acceleration in m/s². */
  push?: Vec3;
  /** Linear drag in 1/s, against the rest of the world. */
  drag?: Expr;
  /** Way in metres, added to the place and not to the velocity. */
  carry?: Vec3;
}

export interface ForceKind extends Kind {
  build(dial: DialReader, particle: Moving): Effect;
}

export interface BodyKind extends Kind {
  /** How hard the edge is: 1 fades from the middle, more is harder. */
  edge(dials: DialValues): number;
}

export interface Pixel {
  /** Pixel centre, in pixels, from the left and the top. */
  x: Expr;
  y: Expr;
  width: Expr;
  height: Expr;
  /** A number that differs by pixel and frame, i32. */
  key: Expr;
}

/** A treatment of one pixel at a time: linear light in, linear light (or display light) out. */
export interface PixelFinishKind extends Kind {
  type: 'pixel';
  build(dial: DialReader, colour: Vec3, pixel: Pixel): Vec3;
}

/** Bloom looks at the neighbourhood; engines draw it themselves from these dials. */
export interface BloomKind extends Kind {
  type: 'bloom';
}

export type FinishKind = PixelFinishKind | BloomKind;

export interface BackdropKind extends Kind {
  /** Linear light of the empty picture. */
  build(dial: DialReader, pixel: Pixel): Vec3;
}
