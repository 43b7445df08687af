import type { Follow } from '../sections/kinds';
import type { BlockTrack } from '../language/track';
import type { Piece } from '../piece/types';
import type { Bake } from './bake';
import { phaseOf, type Looping } from '../feeds/loop';
import type { Turns } from '../language/builder';
import type { Births } from './motion/births';
import type { CameraPose } from '../language/frame';
import type { GivenValues } from '../language/names';
import type { Draw } from './look/draws/draw';
import type { FinishPlan } from './finish/steps';
import type { History } from './motion/history';
import type { PlanKernel } from '../language/frame';
import type { Lamps } from '../language/frame';
import type { FieldPlan } from './fields/fieldPlan';
import type { MediumLayers } from './media/mediumLayer';
import type { MediumPlan } from './media/mediumPlan';
import type { FramePass } from './passes';
import type { Score } from './score/score';
import type { GridPlan } from './motion/neighbourGrid';

export interface SwarmPlan {
  id: string;
  name: string;
  /** Slots, a multiple of 4. A particle's slot is its id modulo the capacity. */
  capacity: number;
  births: Births;
  birth: PlanKernel;
  motion: PlanKernel;
  /** Its bodies, in order. */
  draws: readonly Draw[];
  /** Its bodies as what is measured of them, where somebody asks; see passes.ts. */
  measured: readonly Draw[];
  /** Its shadows on the floor. */
  shadows: readonly Draw[];
  /** For files: see READINGS. Made when asked for. */
  readings: () => PlanKernel;
  /** Samples of shapes and gradients, for the buffer `tables`. */
  tables: Float32Array;
  /** Larger things by the name of their buffer; equal arrays are the same object. */
  blocks: ReadonlyMap<string, Float32Array>;
  /** Tracks that its births and its motion read, by the name of their buffer. */
  tracks: ReadonlyMap<string, BlockTrack>;
  /** Kernels that give its particles to media, by the medium's id. */
  gives: ReadonlyMap<string, PlanKernel>;
  /** Buffers of fields and media that its kernels read, with how many numbers each has. */
  fields: ReadonlyMap<string, number>;
  /** Names of the state of each particle, see STATE; values kept from birth come after. */
  state: readonly string[];
  /** The swarm whose particles it is born from: its states are the buffers `parent.*`. */
  parent: string | null;
  /** Its motion is played from here instead of being simulated. */
  bake: Bake | null;
  /** For those that look at their neighbours. */
  grid: GridPlan | null;
  /** Uniforms of each repeat that is drawn, one at least: see look/copies.ts. */
  copies: readonly GivenValues[];
  /** Equal keys have equal motion. */
  motionKey: string;
  /** Where the piece comes round: how its slots are used. */
  turns: Turns | null;
  /** Frames that trails go back, see history.ts; 0 without. */
  history: History;
}

/** Ids below this have been born at the end of a frame. */
export function bornAt(swarm: SwarmPlan, frame: number): number {
  return (swarm.bake ?? swarm.births).bornAt(frame);
}

/** Whether a render that keeps frames from `first` on has to draw this one: a finish may remember it. */
export function isDrawn({ finish, runIn }: Plan, frame: number, first: number): boolean {
  return frame >= first || (finish.remembers && frame >= -runIn);
}

/** The tracks that the picture of a frame and the step behind it read, of plans that follow each other. */
export function blocksAround(plan: Plan, frame: number): BlockTrack[] {
  const next = plan.at(frame + 1);
  return [...new Set([...plan.tracks.blocks, ...next.tracks.blocks])];
}

/** A word for the artist on a part, with numbers. */
export interface Notice {
  part: string;
  message: string;
  /** The limit that would be enough, where a limit bites. */
  enough?: number;
}

/** A body of a swarm. */
export interface Drawn {
  swarm: SwarmPlan;
  draw: Draw;
}

/** Bodies and media that are drawn into one set of planes, in the order of the line-up: opaque things come first. */
export interface Drawing {
  opaque: readonly Drawn[];
  blended: readonly Drawn[];
}

/** The drawing of layers beside the picture. */
export interface PassPlan {
  wanted: readonly FramePass[];
  /** All bodies as what is measured of them, see measuredDraws. */
  measured: Drawing;
  /** Swarms by their number in the line-up, from 1: each drawn by itself. */
  alone: ReadonlyMap<number, { name: string; drawing: Drawing }>;
  /** No backdrop, and the same lit evenly. */
  dark: PlanKernel;
  lit: PlanKernel;
}

/** Shadows of mesh copies on a floor: drawn apart, softened, and taken from the backdrop's light. */
export interface ShadowPlan {
  drawing: readonly Drawn[];
  /** As a part of the frame's height. */
  blur: (time: number) => number;
  /** Takes the planes `layer.*`, times the shadow's strength, from the light of `r`, `g`, `b`. */
  shade: PlanKernel;
}

/** Values of a piece that change with time and are not simulated. */
export interface Tracks {
  /** Signals by id: a function of the time in seconds. */
  numbers: ReadonlyMap<string, Follow>;
  /** Blocks that engines have to have at hand before they step. */
  blocks: readonly BlockTrack[];
}

/** A piece made ready for an engine. */
export interface Plan {
  /** The piece's, with as long a pre-roll as it needs where it comes round. */
  frame: Piece['frame'];
  /** Frames before the first that a finish that remembers has to have seen: some where the piece comes round. */
  runIn: number;
  /** In order of simulation: a swarm comes behind the one it is born from. */
  swarms: SwarmPlan[];
  /** All that changes with time and is not simulated: numbers by the signal's id, and blocks. */
  tracks: Tracks;
  /** State that belongs to no swarm; it takes its step before the swarms do. */
  fields: readonly FieldPlan[];
  /** Fluids; they take their step behind the fields. */
  media: readonly MediumPlan[];
  /** Media as they are seen in the scene. */
  mediumLayers: MediumLayers;
  drawing: Drawing;
  /** Swarms that the finish shows, each drawn on a layer of its own. */
  layers: ReadonlyMap<string, Drawing>;
  /** The camera at a time in seconds. */
  camera: (time: number) => CameraPose;
  lamps: (time: number, pose: CameraPose) => Lamps;
  shadows: ShadowPlan | null;
  /** Blurs opaque things that are not in focus, where there are any. */
  solidLens: PlanKernel | null;
  /** How long the shutter lets light in, in frames, and in how many moments. */
  shutter: (time: number) => { frames: number; samples: number };
  /** The empty picture. */
  backdrop: PlanKernel;
  /** Where the backdrop is dark because there is to be none: the same, lit evenly. */
  lit: PlanKernel | null;
  /** Layers beside the picture, where somebody asks for them. */
  passes: PassPlan | null;
  finish: FinishPlan;
  notices: Notice[];
  /** Equal plans of motion have equal keys: the state of one is the state of the other. */
  motionKey: string;
  /** The plan of a frame: itself, but where controls of the piece change what no signal can. */
  at: (frame: number) => Plan;
  /** The course of the piece's controls; null where it has neither controls nor cues. */
  score: Score | null;
  /** Whether a cue lets the finish forget at a frame what it has of the frames before. */
  anew: (frame: number) => boolean;
}

/** Most particles alive at once, over all swarms; what a browser tab can hold with room to spare. */
export const MOST_PARTICLES = 8_000_000;

/** Most particles drawn of one swarm, its repeats counted. */
export const MOST_DRAWN = 16_000_000;

/** Seconds of the start of a frame; frame 0 is at 0. */
export function timeOf(frame: number, rate: number): number {
  return frame / rate;
}

/** Seconds of a moment in a frame, 0 to 1 from its start to its end, where the piece comes round if it does. */
export function secondIn(settings: Looping, frame: number, moment: number): number {
  return timeOf(phaseOf(settings, frame) + moment, settings.rate);
}
