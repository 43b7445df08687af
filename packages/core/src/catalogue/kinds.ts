import type { Expr, Vec3 } from '@vast-swarm/kernel';
import type { DialReader } from '../plan/dialReader';
import type { Pixel } from '../plan/finish/pixel';
import type { FinishContext } from '../plan/finish/steps';
import type { Pattern } from './bodies/patterns';
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
  /** Whether it wants the distance field of its dial `mesh`, at `detail` cells along. */
  measures?: (dials: DialValues) => boolean;
}

export interface Birthplace {
  /** Where the particle is born, in metres, in the emitter's own frame (right-handed, y up). */
  position: Vec3;
  /** Unit vector away from the emitter's surface there. */
  normal: Vec3;
  /** Unit vector along the emitter's line there; square to the normal where there is no line. */
  tangent?: Vec3;
  /** Linear light of the place: of a picture, mesh or point cloud. */
  colour?: Vec3;
  /** Velocity of the place itself in m/s, world frame, as of another swarm's particle. */
  velocity?: Vec3;
  /** False: there is no place, and the particle is not born. */
  there?: Expr;
  /** The place is already in the world frame. */
  inWorld?: boolean;
}

/** What holds a particle to its emitter while it lives. */
export interface Hold {
  /** Way in metres in this step, in the emitter's own frame. */
  carry?: Vec3;
  /** The place itself at the end of this step, in the emitter's own frame. */
  place?: Vec3;
  /** How soon the place is reached, in 1/s; at once where nothing is said. */
  softness?: Expr;
}

export interface EmitterKind extends Kind {
  build(dial: DialReader): Birthplace;
  /** Motion along with the emitter, where there is such a thing. */
  hold?(dial: DialReader, particle: Moving): Hold | null;
  /** Linear light of the particle's place now, where that changes while it lives. */
  colour?(dial: DialReader): Vec3 | null;
}

export interface LaunchKind extends Kind {
  /** Velocity at birth in metres per second, in the emitter's own frame. */
  build(dial: DialReader, place: Birthplace): Vec3;
}

export interface Moving {
  position: Vec3;
  velocity: Vec3;
  /** Length of this particle's step in seconds. */
  step: Expr;
  /** Time of the piece in seconds at the start of the step; the same for all particles. */
  time: Expr;
  /** Seconds lived at the start of the step. */
  age: Expr;
  /** Where the particle was born, world frame. */
  home: () => Vec3;
  /** The swarm's particles around; only for kinds that say how far they see. */
  near: () => Neighbours;
}

/** Particles in the 27 cells around one; visited in the same order whatever the threads. */
export interface Neighbours {
  /**
   * Sums over the neighbours: `add` gets a neighbour's place and velocity relative to the particle's
   * and the sums so far.
   */
  sum(zero: Expr[], add: (offset: Vec3, velocity: Vec3, sums: Expr[]) => Expr[]): Expr[];
}

/** What a force does in one step; parts that are left out do nothing. */
export interface Effect {
  /** Acceleration in m/s². */
  push?: Vec3;
  /** Linear drag in 1/s, against the rest of the world. */
  drag?: Expr;
  /** Way in metres, added to the place and not to the velocity. */
  carry?: Vec3;
  /** Most speed in m/s at the end of the step. */
  limit?: Expr;
}

export interface ForceKind extends Kind {
  /** How far it looks for other particles, in metres. */
  sight?: (dials: DialValues) => number;
  build(dial: DialReader, particle: Moving): Effect;
}

/** How far a place is from a collider, in the collider's own frame. */
export interface Distance {
  /** Metres; below 0 inside. Never more than the true distance. */
  distance: Expr;
  /** Unit vector away from the surface. */
  normal: Vec3;
}

export interface ColliderKind extends Kind {
  /** Null where there is nothing, as with a mesh that is missing. */
  build(dial: DialReader): ((place: Vec3) => Distance) | null;
}

/** What a signal knows of its piece. */
export interface SignalContext {
  /** Frames a second. */
  rate: number;
  seed: number;
  id: string;
}

export interface SignalKind extends Kind {
  /** The signal as a function of the time in seconds. */
  follow(dials: DialValues, context: SignalContext): (time: number) => number;
}

/** What an engine draws for a body. */
export type BodyShape =
  /** A round dot; without turning, and so the quickest. */
  | { draws: 'disc' }
  /** A pattern in a square that turns and stretches; `param` is the dial of the pattern's own number. */
  | { draws: 'mark'; pattern: Pattern; param?: string }
  | { draws: 'mesh' }
  | { draws: 'trail' }
  | { draws: 'links' };

export interface BodyKind extends Kind {
  shape: BodyShape;
}

export interface LightKind extends Kind {
  /** Where its light falls: on what faces it, on edges that turn away, or everywhere. */
  falls: 'facing' | 'edge' | 'everywhere';
}

/** A treatment of one pixel at a time: linear light in, linear light (or display light) out. */
export interface PixelFinishKind extends Kind {
  type: 'pixel';
  /** The dial that names a swarm which it shows. */
  layer?: string;
  build(context: FinishContext, colour: Vec3): Vec3;
}

/** A treatment that looks at the frame around a pixel, or at the frame before. */
export interface AroundFinishKind extends Kind {
  type: 'around';
  layer?: string;
  /** How many times it runs, each on what the one before left; once where nothing is said. */
  passes?: number;
  /** It sees what it left in the frame before. */
  remembers?: boolean;
  build(context: FinishContext): Vec3;
}

/** Treatments of the whole frame that engines do themselves from these dials. */
export interface SpreadFinishKind extends Kind {
  type: 'bloom' | 'blur';
  layer?: undefined;
}

export type FinishKind = PixelFinishKind | AroundFinishKind | SpreadFinishKind;

export interface BackdropKind extends Kind {
  /** Linear light of the empty picture. */
  build(dial: DialReader, pixel: Pixel): Vec3;
}
