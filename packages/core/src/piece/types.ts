import type { DialValues } from '../language/dials';
import type { Chance } from '../language/particle';
import type { SwarmValues } from '../sections/swarms/swarmDials';
import type { Played } from './played';
import type { StockEntry } from '../stock/entry';

export const FORMAT = 'vast-swarm piece';
export const VERSION = 12;

export { PART_LISTS, type PartList } from '../sections/lists';

/** A kind with its dials. */
export interface Choice {
  kind: string;
  dials: DialValues;
}

/** Something of the piece that has a name and can be switched off. */
export interface Part extends Choice {
  id: string;
  name: string;
  on: boolean;
}

export interface Swarm {
  id: string;
  name: string;
  on: boolean;
  emitter: Choice;
  launch: Choice;
  /** Bodies of each particle, in the order of drawing. */
  bodies: Part[];
  dials: SwarmValues;
  /** Repeats of the whole swarm; each repeats what the ones before it made. */
  copies: Copies[];
  /** Id of a swarm that this one follows: it has all its settings, save its own. */
  follows?: string | undefined;
  /** Settings that a follower has for itself: `emitter`, `launch`, `bodies`, `copies`, or a dial's key. */
  own?: string[] | undefined;
}

/** So many repeats, the first being the swarm itself; each is placed relative to the one before. */
export interface Copies {
  count: number;
  /** Metres. */
  offset: [number, number, number];
  /** Degrees about x, then y, then z. */
  turn: [number, number, number];
  scale: number;
  /** The surface that particles are born on runs on from each to the next, along or around. */
  runsOn?: 'along' | 'around' | undefined;
  /** Chances that are drawn anew in each but the first, in these respects. */
  differ?: { in: Chance[]; seed: number } | undefined;
}

/** The piece's frame and time. */
export interface FrameSettings {
  /** Pixels. */
  width: number;
  height: number;
  /** Frames per second, as the nearest number to a fraction; the simulation's step is one frame. */
  rate: number;
  /** Frames, from 0. */
  length: number;
  /** Frames simulated before frame 0. */
  preroll: number;
  /** Whether what comes behind the last frame is the first one: all that moves comes round in this time. */
  loop?: boolean | undefined;
}

/** One document: everything needed to simulate and draw one visual. */
export interface Piece {
  format: typeof FORMAT;
  version: typeof VERSION;
  name: string;
  seed: number;
  frame: FrameSettings;
  backdrop: Choice;
  camera: Choice;
  lights: Part[];
  /** Multiplies how many particles carry the picture; sizes and opacities make up for it. */
  density: number;
  swarms: Swarm[];
  forces: Part[];
  colliders: Part[];
  /** Fluids that swarms stir and ride. */
  media: Part[];
  /** Somebody whose joints drive it. */
  performers: Part[];
  /** Pictures that change with time: clips, and made maps. */
  pictures: Part[];
  /** Sounds: heard by the audience and by signals. */
  sounds: Part[];
  signals: Part[];
  stock: StockEntry[];
  /** influence[force or collider][swarm or medium]: how much it is felt; 1 where nothing is said. */
  influence: Record<string, Record<string, number>>;
  finish: Part[];
  /** Dials that are put forward, under names, for whoever runs the show. */
  controls: Part[];
  /** Changes of controls that are fired, in the order of the night. */
  cues: Part[];
  /** Controls and cues that were played while it ran, in order of time. */
  played: Played[];
}
