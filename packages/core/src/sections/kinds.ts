import type { ControlValue } from '../feeds/control';
import type { Heard } from '../stock/sound/heard';
import type { Expr, Vec3 } from '@vast-swarm/kernel';
import type { FrameFeed, Vector, VectorFeed } from '../feeds/feeds';
import type { DialReader } from '../language/dialReader';
import type { FlowOptions } from '../language/flowTrack';
import type { Dials, ValuesOf } from '../language/dials';
import type { Pixel } from '../language/pixel';
import type { Placement } from '../language/placement';
import type { LivePictures } from '../stock/clip/livePictures';
import type { Performing } from '../stock/motion/performing';
import type { LiveMotion } from '../stock/motion/liveMotion';
import type { LiveSound } from '../stock/sound/liveSound';
import type { MovingPicture, StockData } from '../stock/types';
import type { Pattern } from './swarms/bodies/patterns';

/**
 * The declaration of a kind in its catalogue file: all that the schema, the interface, the plan, the doctor and the
 * docs have to know of a kind. Nothing outside asks for a kind by its name or by the name of a dial.
 */
export interface Kind<D extends Dials = Dials> {
  /** Its name in files; never changes. */
  kind: string;
  title: string;
  /** One line for the chooser and the docs. */
  help: string;
  /** Drawn in a square of 24 units with round strokes: the d of an SVG path. */
  icon: string;
  dials: D;
  /** The mesh (id in the stock) whose distance field it wants, at so many cells along. */
  measures?(dials: ValuesOf<D>): { mesh: string; detail: number } | null;
  /** Lines that show its shape in the picture, in its own frame, in metres. */
  outline?(dials: ValuesOf<D>): Vector[][];
  /** The same for what stands apart from it, in the world, as the region of a force. */
  surroundings?(dials: ValuesOf<D>): Vector[][];
}

export interface Birthplace {
  /** Where the particle is born, in metres, in the emitter's own frame (right-handed, y up). */
  position: Vec3;
  /** Unit vector away from the emitter's surface there. */
  normal: Vec3;
  /** Where along and around the emitter it is, 0 to 1; as seen from its middle where nothing is said. */
  surface?: readonly [Expr, Expr];
  /** Unit vector along the emitter's line there; square to the normal where there is no line. */
  tangent?: Vec3;
  /** Linear light of the place: of a picture, mesh or point cloud. */
  colour?: Vec3;
  /** Number of the letter that it is on, from 0, where it is on words. */
  letter?: Expr;
  /** Velocity of the place itself in m/s, in the emitter's own frame, as of another swarm's particle. */
  velocity?: Vec3;
  /** False: there is no place, and the particle is not born. */
  there?: Expr | undefined;
}

/** A hold of a particle to its emitter while it lives. */
export interface Hold {
  /** Way in metres in this step, in the emitter's own frame. */
  carry?: Vec3;
  /** The place itself at the end of this step, in the emitter's own frame. */
  place?: Vec3;
  /** How soon the place is reached, in 1/s; at once where nothing is said. */
  softness?: Expr;
}

/** Questions to a piece that the doctor asks on behalf of a kind. */
export interface Inquiry {
  /** A swarm of the piece by id, where there is one. */
  swarm(id: string): { name: string; on: boolean } | undefined;
  /** A medium of it, likewise. */
  medium(id: string): { name: string; on: boolean } | undefined;
  /** A performer of it, likewise. */
  performer(id: string): { name: string; on: boolean; moves: boolean } | undefined;
}

/** Things of the stock by their ids in the piece. */
export type StockAt = (id: string) => StockData | undefined;

/** Places that can be counted. */
export interface Places {
  count: number;
  /** Metres from a place to the next, about; worked out when asked for. */
  spacing: () => number;
  /** Whether each has a colour of its own. */
  coloured: boolean;
}

export interface EmitterKind<D extends Dials = Dials> extends Kind<D> {
  build(dial: DialReader<D>): Birthplace;
  /** Motion along with the emitter, where there is such a thing. */
  hold?(dial: DialReader<D>, particle: Omit<Moving, 'field'>): Hold | null;
  /** Linear light of the particle's place now, where that changes while it lives. */
  colour?(dial: DialReader<D>): Vec3 | null;
  /** The places that it has, where they can be counted: 'all places once' gives each a particle. */
  places?: (dials: ValuesOf<D>, stock: StockAt) => Places | null;
  /** Chosen, a swarm begins with all its places once, and with a look that shows them as they are. */
  shownWhole?: true;
  /** The swarm whose particles it is born from, by id; '' is none. */
  parent?(dials: ValuesOf<D>): string;
  /** Why nothing is born of it, in words for the artist, where that can be told from its dials. */
  whyNoBirths?: (dials: ValuesOf<D>, piece: Inquiry) => string | null;
}

export interface LaunchKind<D extends Dials = Dials> extends Kind<D> {
  /** Velocity at birth in metres per second, in the emitter's own frame. */
  build(dial: DialReader<D>, place: Birthplace): Vec3;
}

export interface Moving {
  /** Where it is about to be in the middle of the step, where forces are read. */
  position: Vec3;
  /** Where it is at the start of the step. */
  start: Vec3;
  velocity: Vec3;
  /** Length of this particle's step in seconds. */
  step: Expr;
  /** Time of the piece in seconds in the middle of the frame; the same for all particles. */
  time: Expr;
  /** Seconds lived at the start of the step. */
  age: Expr;
  /** Where the particle was born, world frame. */
  home: () => Vec3;
  /** The swarm's particles around; only for kinds that say how far they see. */
  near: () => Neighbours;
  /** The force's own field; only for kinds that have one. */
  field: () => FieldReading;
}

/** The field of a force, as its `build` reads it. */
export interface FieldReading {
  /** Sides of a cell, in metres. */
  side: Vec3;
  /** A kept value by its name, linear between the middles of cells; fades to 0 outside the box. */
  at(name: string, place: Vec3): Expr;
}

/**
 * Numbers in the cells of a box, that belong to no swarm: at every frame particles leave something in
 * their cells, and the cells take a step of their own.
 */
export interface FieldKind<D extends Dials = Dials> {
  /** Cells along x, y and z; part of the structure, so only dials that never vary decide it. */
  cells(dials: ValuesOf<D>): readonly [number, number, number];
  /** The swarm whose particles leave something, by id; '' is all of them. */
  from(dials: ValuesOf<D>): string;
  /** Middle and size of the box in metres, in the world frame. */
  box(dial: DialReader<D>): { centre: Vec3; size: Vec3 };
  /** Names of what particles leave: it is added up in each cell, in the order of slots. */
  gathers: readonly string[];
  /** Sums of a particle for its cell, by those names; `velocity` is that with which it is seen to move. */
  leaves(particle: { position: Vec3; velocity: Vec3 }): Record<string, Expr>;
  /** Names of what cells keep from frame to frame; 0 to begin with. */
  keeps: readonly string[];
  /** Kept values of a cell after a frame of `step` seconds, by those names. */
  step(
    dial: DialReader<D>,
    cell: { step: Expr; kept: (name: string) => Expr; left: (name: string) => Expr },
  ): Record<string, Expr>;
}

/** Particles in the 27 cells around one; visited in the same order whatever the threads. */
export interface Neighbours {
  /**
   * Sums over the neighbours: `add` gets a neighbour's place and velocity relative to the particle's
   * and the sums so far.
   */
  sum(zero: Expr[], add: (offset: Vec3, velocity: Vec3, sums: Expr[]) => Expr[]): Expr[];
}

/** Effect of a force in one step; parts that are left out do nothing. */
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

export interface ForceKind<D extends Dials = Dials> extends Kind<D> {
  /** The plane that it is laid out on, of a force that is. */
  plane?(dials: ValuesOf<D>): Plane;
  /** The moving picture of the piece whose motion it reads on its plane, and how. */
  sees?(dials: ValuesOf<D>): { picture: string; options: FlowOptions };
  /** How far it looks for other particles, in metres. */
  sight?(dials: ValuesOf<D>): number;
  /** Whether it moves places without being part of their velocity: what it gives has a `carry`. */
  carries?(dials: ValuesOf<D>): boolean;
  /** The medium that it carries by, by id. */
  rides?(dials: ValuesOf<D>): string;
  /** Cells that it keeps beside the swarms, for `build` to read. */
  field?: FieldKind<D>;
  build(dial: DialReader<D>, particle: Moving): Effect;
}

/** How far a place is from a collider, in the collider's own frame. */
export interface Distance {
  /** Metres; below 0 inside. */
  distance: Expr;
  /** Unit vector away from the surface. */
  normal: Vec3;
}

/** A straight way in a collider's own frame, for lanes where `on` is true. */
export interface Ray {
  from: Vec3;
  way: Vec3;
  on: Expr;
}

/** Where a way first meets a surface. */
export interface Meeting {
  /** The part of the way up to there; above 1 where it is not met. */
  part: Expr;
  /** Unit vector away from the surface, on the side that the way comes from. */
  normal: Vec3;
}

export interface Solid {
  /** How far a place is from the surface. */
  distance(place: Vec3): Distance;
  /** Where a way meets what lies within `gap` metres of the surface; left out where the solid is convex. */
  meets?(ray: Ray, gap: Expr): Meeting;
  /** Metres by which `distance` may be wrong; left out where it is exact. */
  doubt?: Expr;
  /** Whether there is anything; left out where there always is. */
  there?: Expr | undefined;
}

/** A rigid part of a collider that is not rigid, with its frames at the start and at the end of the step. */
export interface Limb {
  before: Placement;
  after: Placement;
  /** How far a place of its own frame is from its surface; it is convex. */
  distance(place: Vec3): Distance;
  there?: Expr | undefined;
}

export interface ColliderKind<D extends Dials = Dials> extends Kind<D> {
  /** Null where there is nothing, as with a mesh that is missing. */
  build(dial: DialReader<D>): Solid | null;
  /**
   * Of a collider whose parts move by themselves: those that a particle may meet on its way in this step, in place of
   * the whole. The way is in the collider's own frame.
   */
  limbs?(dial: DialReader<D>, way: { from: Vec3; to: Vec3 }): Limb[];
}

/** A plane in space: turned about x, then y; 0 faces the front. */
export interface Plane {
  centre: VectorFeed;
  /** Degrees. */
  turn: VectorFeed;
  /** Metres. */
  width: FrameFeed;
  height: FrameFeed;
}

/** Inputs of a sound from its piece. */
export interface SoundContext {
  /** Frames a second. */
  rate: number;
  stock: (id: string) => StockData | undefined;
  /** The recording in progress. */
  live?: LiveSound | undefined;
}

/** Dials of a sound or a clip that are dragged on the timing strip. */
export interface Strip<K extends string = string> {
  /** The frame at which it begins. */
  start: K;
  /** Seconds of it: where what is heard or seen begins, and ends; 0 is its own end. */
  trim?: readonly [from: K, to: K];
  /** Seconds of it in a second of the piece, where that can be chosen. */
  speed?: K;
  /** Seconds. */
  fades?: readonly [fadeIn: K, fadeOut: K];
}

/** Names of the dials of a live input. */
export interface Records<K extends string = string> {
  take: K;
  start: K;
}

/** Inputs of a moving picture from its piece. */
export interface PictureContext {
  /** Frames a second. */
  rate: number;
  seed: number;
  stock: (id: string) => StockData | undefined;
  /** The recording in progress. */
  live?: LivePictures | undefined;
}

/** A picture that changes with time: a clip, or one that is worked out. */
export interface PictureKind<D extends Dials = Dials> extends Kind<D> {
  /** Undefined where there is nothing, as of a clip that is missing. */
  moving(dials: ValuesOf<D>, context: PictureContext): MovingPicture | undefined;
  /** The dial that names the clip it plays; left out where it is made by arithmetic. */
  plays?: keyof D & string;
  /** Of live input: the dials that say which take counts, and at which frame it begins. */
  records?: Records<keyof D & string>;
  /** Names of its dials that are dragged on the timing strip. */
  strip?: Strip<keyof D & string>;
}

/** Inputs of a performer from its piece. */
export interface PerformerContext {
  /** Frames a second. */
  rate: number;
  stock: (id: string) => StockData | undefined;
  /** The recording in progress. */
  live?: LiveMotion | undefined;
}

/** Somebody whose joints drive the piece. */
export interface PerformerKind<D extends Dials = Dials> extends Kind<D> {
  /** The dial that names the motion. */
  plays: keyof D & string;
  /** Of live input: the dials that say which take counts, and at which frame it begins. */
  records?: Records<keyof D & string>;
  /** Names of its dials that are dragged on the timing strip. */
  strip?: Strip<keyof D & string>;
  /** Undefined where there is nobody, as of a motion that is missing. */
  performing(dials: ValuesOf<D>, context: PerformerContext): Performing | undefined;
}

/** A fluid: all have the dials of sections/media/dials.ts. */
export type MediumKind<D extends Dials = Dials> = Kind<D>;

export interface SoundKind<D extends Dials = Dials> extends Kind<D> {
  /** Of live input: the dials that say which take counts, and at which frame it begins. */
  records?: Records<keyof D & string>;
  /** Names of its dials that are dragged on the timing strip. */
  strip: Strip<keyof D & string>;
  /** The sound as it is heard, and when; null where nothing is. */
  heard(dials: ValuesOf<D>, context: SoundContext): Heard | null;
}

/** A recording that grows while it is read. */
export interface LiveClock {
  /** Another number when there is more of it. */
  changes(): number;
  /** The second from which on something changed since that number. */
  changedFrom(changes: number): number;
}

/** Inputs of a signal from its piece. */
export interface SignalContext {
  /** Frames a second. */
  rate: number;
  seed: number;
  id: string;
  /** Second at which the piece begins: below 0 where it has a pre-roll. */
  start: number;
  live: LiveClock;
  /** Another signal as a function of the time; 0 where there is none of that id. */
  signal: (id: string) => (time: number) => number;
  /** A sound of the piece as it is heard; null where nothing is. */
  heard: (id: string) => Heard | null;
  /** A performer of the piece; undefined where there is none of that id. */
  performer: (id: string) => Performing | undefined;
}

/** A signal as a function of the time in seconds. */
export interface Follow {
  (time: number): number;
  /** When it fires between two times, of one that does. */
  fired?: (from: number, to: number) => number[];
}

/** Names of dials that are dragged on the bench of a signal. */
export interface Bench<K extends string = string> {
  /** The two frequencies between which it hears. */
  cuts?: readonly [low: K, high: K];
  /** A value of what goes in. */
  threshold?: K;
  /** The stages of an envelope. */
  envelope?: readonly [attack: K, hold: K, decay: K, sustain: K, release: K];
  /** Beats a minute, and the second of the first one. */
  tempo?: readonly [tempo: K, first: K];
}

export interface SignalKind<D extends Dials = Dials> extends Kind<D> {
  /** Handles on its bench beside its curve. */
  bench?: Bench<keyof D & string>;
  /** The measure of the pointer over the picture that drives it, where one does. */
  points?(dials: ValuesOf<D>): 'across' | 'up' | 'held';
  /** How many signals it is at once; one where nothing is said. */
  parts?(dials: ValuesOf<D>): number;
  /** The signal, or each of its parts, as a function of the time in seconds. */
  follow(dials: ValuesOf<D>, context: SignalContext): Follow | Follow[];
}

/** A kind of control: a value under a name, for whoever runs the show. */
export interface ControlKind<D extends Dials = Dials> extends Kind<D> {
  /** The type of its value, which tells the dials that it can move. */
  holds: 'number' | 'switch' | 'colour' | 'gradient' | 'picture' | 'option';
  /** Its value until something sets it. */
  rest(dials: ValuesOf<D>): ControlValue;
  /** Its lowest and its highest, of one that holds numbers. */
  range?(dials: ValuesOf<D>): [number, number];
  /** The key that moves it while it is held, and what it is meanwhile; null where there is none. */
  held?(dials: ValuesOf<D>): { key: string; value: ControlValue } | null;
}

export type CueKind<D extends Dials = Dials> = Kind<D>;

/** The shape of a body, for engines. */
export type BodyShape =
  /** A round dot; without turning, and so the quickest. */
  | { draws: 'disc' }
  /** A pattern in a square that turns and stretches; `param` is the dial of the pattern's own number. */
  | { draws: 'mark'; pattern: Pattern; param?: string }
  | { draws: 'mesh' }
  | { draws: 'trail' }
  | { draws: 'links' };

export interface BodyKind<D extends Dials = Dials> extends Kind<D> {
  shape: BodyShape;
  /** How many frames back it wants to know the particle's places, and whether the metres travelled. */
  history?(dials: ValuesOf<D>): { frames: number; way: boolean };
}

export interface LightKind<D extends Dials = Dials> extends Kind<D> {
  /** Where its light falls: on what faces it, on edges that turn away, or everywhere. */
  falls: 'facing' | 'edge' | 'everywhere';
  /** Whether it casts shadows; it then has the dials of sections/lights/shadow.ts. */
  casts?(dials: ValuesOf<D>): boolean;
}

export interface CameraKind<D extends Dials = Dials> extends Kind<D> {
  perspective: boolean;
  /** Pixels per metre for a frame one pixel high, by the value of a dial now. */
  focal: (now: (key: keyof D & string) => number) => number;
}

/** Inputs of a treatment of the finish. */
export interface FinishContext<D extends Dials = Dials> {
  dial: DialReader<D>;
  pixel: Pixel;
  /** The frame before, as it left this treatment, at a place in parts of its width and height. */
  past: (u: Expr, v: Expr) => Vec3;
  /** This pixel of the swarm that the treatment shows. */
  layer: () => Vec3;
  /** Which pass it is, from 0; treatments with passes run several times over. */
  pass: Expr;
}

interface Treatment<D extends Dials> extends Kind<D> {
  /** The swarm that it shows on a layer of its own, by id; null where it shows none. */
  layer?(dials: ValuesOf<D>): string | null;
}

/** A treatment of one pixel at a time: linear light in, linear light (or display light) out. */
export interface PixelFinishKind<D extends Dials = Dials> extends Treatment<D> {
  type: 'pixel';
  build(context: FinishContext<D>, colour: Vec3): Vec3;
}

/** A treatment that looks at the frame around a pixel, or at the frame before. */
export interface AroundFinishKind<D extends Dials = Dials> extends Treatment<D> {
  type: 'around';
  /** How many times it runs, each on what the one before left; once where nothing is said. */
  passes?: number;
  /** It sees what it left in the frame before. */
  remembers?: boolean;
  build(context: FinishContext<D>): Vec3;
}

/** Treatments of the whole frame that engines do themselves from these dials. */
export interface SpreadFinishKind<D extends Dials = Dials> extends Treatment<D> {
  type: 'bloom' | 'blur';
  layer?(): null;
}

export type FinishKind<D extends Dials = Dials> =
  PixelFinishKind<D> | AroundFinishKind<D> | SpreadFinishKind<D>;

export interface BackdropKind<D extends Dials = Dials> extends Kind<D> {
  /** Linear light of the empty picture. */
  build(dial: DialReader<D>, pixel: Pixel): Vec3;
}
