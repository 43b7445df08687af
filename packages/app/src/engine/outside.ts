import type { LiveInput, Piece } from '@vast-swarm/core';
import type { HeardTake } from './ear';
import { Ears } from './ears';
import { Hands } from './hands';

/** Frames that are late beside what comes in are simulated and not drawn, so many at the most. */
const MOST_LATE = 8;

/** What steps a piece that is driven. */
interface Steps {
  /** The frame that the next step leads to. */
  next: () => number;
  /** Frames a second. */
  rate: number;
  /** What comes behind the present frame is to be simulated anew. */
  forget: () => void;
  /** A step that is not drawn; false where every frame has to be, or there is none left. */
  skip: () => Promise<boolean>;
}

/** All that drives a piece from outside: what it is driven by is recorded before each step. */
export class Outside {
  readonly hands = new Hands();
  readonly ears: Ears;

  constructor(heard: (take: HeardTake | null) => void) {
    this.ears = new Ears(heard);
  }

  /** What is being recorded, by signal or sound. */
  get takes(): ReadonlyMap<string, LiveInput> {
    return new Map([...this.hands.takes, ...this.ears.takes]);
  }

  get driving(): boolean {
    return this.hands.driving || this.ears.driving;
  }

  /** The piece has changed, and may have what was recorded. */
  settle(piece: Piece): void {
    this.hands.kept();
    this.ears.settle(piece);
  }

  /** Records what the next frame is driven by; false where the plan has to be made for it first. */
  async record({ next, rate, forget, skip }: Steps): Promise<boolean> {
    const heard = this.ears.at(next(), rate);
    if (heard?.[1]) return false;
    const ear = heard?.[0];
    const take = async (): Promise<void> => {
      this.hands.write(next());
      await ear?.until(next(), rate);
      forget();
    };
    await take();
    if (!ear) return true;
    // The picture keeps to what comes in.
    for (let n = 0; n < MOST_LATE && ear.behind(rate) >= 1; n++) {
      if (!(await skip())) break;
      await take();
    }
    ear.catchUp(rate);
    return true;
  }
}
