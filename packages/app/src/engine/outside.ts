import { PLAYED, type Piece, type Played } from '@vast-swarm/core/piece';
import type { LiveInput } from '@vast-swarm/core/plan';
import { Ear, type HeardTake } from './ear';
import { Eye, type PicturePort, type SeenTake } from './eye';
import { Hands } from './hands';
import { Plays } from './plays';
import { Recording, type Recorded } from './recording';
import { Troupe, type Coming, type PerformedTake } from './troupe';

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
  readonly plays: Plays;
  private readonly ears: Recording<HeardTake, Ear>;
  private readonly eyes: Recording<SeenTake, Eye>;
  private readonly troupes: Recording<PerformedTake, Troupe>;

  /** @param told gets takes when they are whole; null where nothing was recorded */
  constructor(told: {
    heard: (take: HeardTake | null) => void;
    seen: (take: SeenTake | null) => void;
    performed: (take: PerformedTake | null) => void;
    played: (played: Played[]) => void;
    recorded: (played: Played[]) => void;
  }) {
    this.plays = new Plays(told.played, told.recorded);
    this.ears = new Recording('sounds', told.heard);
    this.eyes = new Recording('pictures', told.seen);
    this.troupes = new Recording('performers', told.performed);
  }

  /** What is being recorded, by signal, sound, picture or performer; and what is played. */
  get takes(): ReadonlyMap<string, LiveInput> {
    const { hands, ears, eyes, troupes, plays } = this;
    const takes = [...hands.takes, ...ears.takes, ...eyes.takes, ...troupes.takes];
    return new Map(plays.live ? [...takes, [PLAYED, plays.live]] : takes);
  }

  get driving(): boolean {
    const inputs = [this.hands, this.ears, this.eyes, this.troupes];
    return this.plays.waiting || inputs.some((input) => input.driving);
  }

  /** Whether a sound comes in: it keeps the time. */
  get hears(): boolean {
    return this.ears.driving;
  }

  /** Sound from a port, so many samples a second, drives a sound of the piece from the next frame on. */
  listen(sound: string, rate: number, port: MessagePort, piece: Piece | null): void {
    this.ears.open(new Ear(sound, rate, port), piece);
  }

  /** Pictures from a port drive one of the piece's. */
  watch(
    picture: string,
    size: { width: number; height: number },
    port: PicturePort,
    piece: Piece | null,
  ): void {
    this.eyes.open(new Eye(picture, size, port), piece);
  }

  /** Joints that come drive a performer of the piece. */
  perform(performer: string, coming: Coming, piece: Piece | null): void {
    this.troupes.open(new Troupe(performer, coming), piece);
  }

  /** Ends what is recorded of one list of the piece, or of all, and tells it. */
  stop(piece: Piece | null, what: Recorded | 'all' = 'all'): void {
    const { ears: sounds, eyes: pictures, troupes: performers } = this;
    for (const [list, input] of Object.entries({ sounds, pictures, performers })) {
      if (what === 'all' || what === list) input.stop(piece);
    }
  }

  /** The piece has changed, and may have what was recorded; true where something else was played in it. */
  settle(piece: Piece): boolean {
    this.hands.kept();
    this.ears.settle(piece);
    this.eyes.settle(piece);
    this.troupes.settle(piece);
    return this.plays.settle(piece);
  }

  /** Records what the next frame is driven by; false where the plan has to be made for it first. */
  async record({ next, rate, forget, skip }: Steps): Promise<boolean> {
    const heard = this.ears.at(next(), rate);
    const seen = this.eyes.at(next(), rate);
    const performed = this.troupes.at(next(), rate);
    if (heard?.[1] || seen?.[1] || performed?.[1]) return false;
    const [ear, eye, troupe] = [heard?.[0], seen?.[0], performed?.[0]];
    const take = async (): Promise<void> => {
      this.hands.write(next());
      this.plays.write(next() / rate);
      await eye?.until(next());
      await ear?.until(next(), rate);
      troupe?.until(next());
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
