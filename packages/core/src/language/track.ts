import { seenIn } from '../stock/clip/look';
import type { Look, MovingPicture } from '../stock/types';

/**
 * Data that changes with time and is not simulated, as lists of numbers: a block for each stretch of frames.
 * A block is a function of the track and its number alone, so that a frame stays one of the piece and its
 * own number.
 */
export interface BlockTrack {
  /** Tracks of one name are one track. */
  readonly name: string;
  /** Numbers in every block. */
  readonly words: number;
  /** Which block a frame (0 or more; the pre-roll has those of frame 0) finds. */
  blockAt(frame: number): number;
  /** A block: at once where it is at hand, else as soon as it is. */
  read(block: number): Float32Array | Promise<Float32Array>;
  /** Where others find it, meanwhile: it can be asked for ahead, and goes back when it is not kept any more. */
  readonly back?: (values: Float32Array) => void;
}

/** A track of a measure in each state of a moving picture. */
export function seenTrack(
  moving: MovingPicture,
  name: string,
  words: number,
  look: Look,
): BlockTrack {
  return {
    name: `${name}.${moving.name}`,
    words,
    ...(moving.seeing && { back: moving.seeing.back }),
    blockAt: moving.stateAt,
    read: (state) => seenIn(moving, [state], look),
  };
}

/** The name of the buffer that holds a track's block of the present frame. */
export function trackBuffer({ name }: BlockTrack): string {
  return `track/${name}`;
}
