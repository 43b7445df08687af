import type { FrameFeed, Vector, VectorFeed } from '../feeds/feeds';
import type { MovingPicture, Picture, StockData } from '../stock/types';
import type { Performing } from '../stock/motion/performing';
import type { Dials, DialValues } from './dials';
import type { MediumSpace } from './mediumSpace';

/** Surroundings of readers of dials: the piece with its tracks and stock, as the plan has it. */
export interface World {
  readonly seed: number;
  /** How many particles carry the same picture: 1 as the piece has them. */
  readonly density: number;
  /** Frames a second. */
  readonly rate: number;
  /** Seconds after which the piece comes round again; null where it does not. */
  readonly period: number | null;
  /** The frame of the piece that a frame of its pre-roll, or one behind its end, is where it comes round. */
  phase(frame: number): number;
  /** Which round of a loop a frame is in; the first is 0. */
  round(frame: number): number;
  /** The piece's frame in pixels. */
  readonly size: { readonly width: number; readonly height: number };
  readonly lens: { readonly perspective: boolean; readonly defocuses: boolean };
  /** Follows a dial that is the same for all particles: a function of the time in seconds. */
  follow(feed: FrameFeed): (time: number) => number;
  /** Its value at a time in seconds. */
  number(feed: FrameFeed, time: number): number;
  vector(feed: VectorFeed, time: number): Vector;
  /** A picture of the stock, or a moving one of the piece, by its id. */
  picture(id: string): Picture | MovingPicture | undefined;
  /** The same, or a medium. */
  shown(id: string): Picture | MovingPicture | MediumSpace | undefined;
  /** A medium of the piece by its id; undefined where there is none, or it is switched off. */
  medium(id: string): MediumSpace | undefined;
  /** A performer of the piece by their id; undefined where there is none, or they are switched off. */
  performer(id: string): Performing | undefined;
  /** A thing of the stock by its id in the piece. */
  stock(id: string): StockData | undefined;
  /** Colour of another swarm: its dials `colour` and `light`, and its id. */
  colouring(swarm: string): { id: string; specs: Dials; values: DialValues } | null;
}
