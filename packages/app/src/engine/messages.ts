import type { Census, MediumCensus } from '@vast-swarm/core/play';
import type { RecordedList } from '@vast-swarm/core/kinds';
import type { ControlValue, Take } from '@vast-swarm/core/feeds';
import type { Notice } from '@vast-swarm/core/plan';
import type { Peaks, Sound, StockData, Tempo } from '@vast-swarm/core/stock';
import type { Piece, Played } from '@vast-swarm/core/piece';

import type { SoundExtent } from './hearing';
import type { Play } from './plays';
import type { Incoming, Taken } from './recorders';

export type EngineKind = 'cpu' | 'gpu';
export type EngineChoice = 'auto' | EngineKind;

/** Lines of the preview: what a picture may cost. */
export const LINES = [1080, 720, 540, 432, 360, 270, 216] as const;
/** A show's output may have any number of them. */
export type PreviewChoice = 'auto' | number;

/** Where a particle is looked for: parts of the picture's size, of one swarm or of any. */
export interface Spot {
  x: number;
  y: number;
  swarm: string | null;
}

/** Calls of the interface to the engine's worker; all but the first wait until the engine is there. */
export interface EngineWorker {
  /**
   * @param tell is told what happens, see EngineEvent
   * @param asked one number in shared memory that grows with all that makes what is being built needless; null where
   * memory is not shared
   */
  start: (
    canvas: OffscreenCanvas,
    engine: EngineChoice,
    tell: (event: EngineEvent) => void,
    asked: Int32Array | null,
  ) => Promise<void>;
  setPiece: (piece: Piece) => Promise<void>;
  /** Sets the stock's things from files, by hash. */
  setStock: (files: ReadonlyMap<string, StockData>) => Promise<void>;
  /** Leaves off making a change ready that takes long. */
  stopBuilding: () => Promise<void>;
  setBakes: (bakes: readonly BakeFile[]) => Promise<void>;
  /** Stores the motion of a swarm, from the first frame to the last. */
  bake: (swarm: string, file: string) => Promise<void>;
  stopBake: () => Promise<void>;
  /** Answers on sounds and signals; see Hearing. */
  sound: (id: string) => Promise<Sound | null>;
  extent: (sound: string) => Promise<SoundExtent | null>;
  peaks: (sound: string, from: number, to: number, count: number) => Promise<Peaks | null>;
  spectrum: (
    sound: string,
    time: number,
    range: [low: number, high: number],
    count: number,
  ) => Promise<Float32Array | null>;
  tempo: (sound: string) => Promise<Tempo | null>;
  curve: (signal: string, seconds: number, count: number) => Promise<Float32Array>;
  fired: (signal: string, from: number, to: number) => Promise<number[]>;
  /** How many particles of a swarm are seen, and why not more. */
  census: (swarm: string) => Promise<Census>;
  /** Counts of a medium's cells; null where it is not running. */
  mediumCensus: (medium: string) => Promise<MediumCensus | null>;
  /** Follows the particle nearest to a place in the picture, or none. */
  follow: (at: Spot | null) => Promise<void>;
  /** Moves a signal by hand; null lets it go. */
  drive: (signal: string, value: number | null) => Promise<void>;
  /** Sets a control, or fires a cue. */
  act: (play: Play) => Promise<void>;
  /** A control that was held is let go. */
  letGo: (control: string) => Promise<void>;
  /** Has a live input drive a part of the piece while it plays, and records it. */
  record: <L extends RecordedList>(list: L, part: string, from: Incoming[L]) => Promise<void>;
  /** Ends what is recorded of a list, and tells it. */
  stopRecording: (list: RecordedList) => Promise<void>;
  play: (playing: boolean) => Promise<void>;
  seek: (frame: number) => Promise<void>;
  /** From now on it is run for a show. */
  run: (run: Run) => Promise<void>;
  /** Of what is run: goes on at a frame, with controls as they stand. */
  jump: (frame: number) => Promise<void>;
  /** How fast time goes; 1 is as ever. */
  pace: (speed: number) => Promise<void>;
  /** @param room lines that the picture has on the screen */
  preview: (choice: PreviewChoice, room: number) => Promise<void>;
  /** A small picture of what is on the canvas; null while there is none. */
  thumb: () => Promise<Blob | null>;
  /** Stops a part of the engine as a crash would; only tests ask for it. */
  crash: () => Promise<void>;
}

/** A swarm's stored motion, as the engine plays it. */
export interface BakeFile {
  swarm: string;
  /** Name of the file in the browser's own file system. */
  file: string;
  first: number;
  last: number;
  capacity: number;
  state: readonly string[];
  /** Ids born by the end of each frame. */
  born: readonly number[];
}

/** A followed particle at a frame. */
export interface FollowReport {
  swarm: string;
  id: number;
  /** Part of the picture's width and height. */
  x: number;
  y: number;
  age: number;
  life: number;
  speed: number;
  size: number;
  opacity: number;
  position: [number, number, number];
}

/** A stretch of the piece that is run for a show. */
export interface Run {
  /** The frame that it begins with, and the one behind its last: there it stands until it is told what comes. */
  at: number;
  until: number;
  /** All that was played of it before, what it has itself too. */
  played: readonly Played[];
}

/** How the engine stands after a frame. */
export interface FrameReport {
  frame: number;
  playing: boolean;
  alive: number;
  /** Particles alive by swarm. */
  aliveBy: Readonly<Record<string, number>>;
  fps: number;
  engine: EngineKind;
  threads: number;
  width: number;
  height: number;
  /** Frames still to be simulated before the wanted frame is there; 0 when it is. */
  settling: number;
  /** False while the state carries on from before a change of motion. */
  exact: boolean;
  /** Milliseconds that simulating a frame takes where a sound leaves it less; 0 where it keeps up. */
  late: number;
  /** Frames that took longer than there is time for one, since it plays. */
  lateFrames: number;
  /** Milliseconds by stage. */
  times: Readonly<Record<string, number>>;
  memoryBytes: number;
  /** Values of the piece's controls. */
  controls: Readonly<Record<string, ControlValue>>;
  /** The cue that began last, and the second at which it did. */
  cue: { cue: string; at: number } | null;
  /** Sounds that cues have started, and those that they start soon, with the seconds at which they do. */
  started: readonly { sound: string; at: number }[];
}

export type EngineEvent =
  | { type: 'frame'; report: FrameReport }
  | { type: 'notices'; notices: Notice[] }
  | { type: 'trouble'; message: string }
  | { type: 'followed'; report: FollowReport | null }
  /** A distance field is being built for a part: the part of it that is done, 1 at the end. */
  | { type: 'building'; name: string; part: number }
  /** The take of a signal that was let go. */
  | { type: 'took'; signal: string; take: Take }
  /** The take of a live input. */
  | { type: 'taken'; taken: Taken }
  /** All that was played of controls and cues so far. */
  | { type: 'played'; played: Played[] }
  /** Acts for a show that were played just now. */
  | { type: 'recorded'; played: Played[] }
  /** A run for a show goes on at a frame, as if so much had been played beside what the piece has. */
  | { type: 'jumped'; frame: number; played: Played[] }
  | { type: 'baking'; swarm: string; done: number; total: number }
  | { type: 'baked'; swarm: string; bake: BakeFile; bytes: number; key: string }
  | { type: 'bakeStopped'; swarm: string; message: string | null };
