import { serialOf } from '../memo';
import type { MovingPicture, Picture } from '../types';

/** Pictures that are at hand: as far back as motion is looked for. */
const AT_HAND = 32;

/** The picture of a camera before anything was recorded of it: black. */
export function nothingSeen(width: number, height: number): Picture {
  return { type: 'picture', width, height, pixels: new Uint8Array(4 * width * height) };
}

/**
 * Pictures that come in and go on being recorded, each from a frame of the piece on; what reads them sees all that
 * there are so far.
 */
export class LivePictures {
  /** The frame at which each begins, rising. */
  private readonly frames: number[] = [];
  private readonly recent = new Map<number, Picture>();
  private readonly none: Picture;

  /**
   * @param rate frames a second
   * @param start frame of the piece at which the recording begins
   */
  constructor(
    readonly width: number,
    readonly height: number,
    private readonly rate: number,
    readonly start: number,
  ) {
    this.none = nothingSeen(width, height);
  }

  /** How many there are. */
  get changes(): number {
    return this.frames.length;
  }

  /** The second of the piece from which on it may be something else, since there were so many. */
  changedFrom(changes: number): number {
    const frame = this.frames[changes];
    return frame === undefined ? Infinity : frame / this.rate;
  }

  /** Another one, from a frame behind that of the last on. */
  append(frame: number, picture: Picture): void {
    this.frames.push(frame);
    this.recent.set(this.frames.length, picture);
    this.recent.delete(this.frames.length - AT_HAND);
  }

  /** Frames from the start at which each begins. */
  begins(): number[] {
    return this.frames.map((frame) => frame - this.start);
  }

  /** As the piece shows it: state 0 is before the first, where there is nothing. */
  moving(): MovingPicture {
    const { width, height, frames, recent, none } = this;
    return {
      type: 'moving',
      name: `live.${String(serialOf(this))}`,
      width,
      height,
      stateAt(frame) {
        let state = frames.length;
        while (state > 0 && frames[state - 1]! > frame) state -= 1;
        return state;
      },
      at: (state) => recent.get(state) ?? none,
    };
  }
}
