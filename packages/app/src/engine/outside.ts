import type { RecordedList } from '@vast-swarm/core/kinds';
import { PLAYED, type Piece, type Played } from '@vast-swarm/core/piece';
import type { LiveInput } from '@vast-swarm/core/plan';
import { HandTakes } from './handTakes';
import { Plays } from './plays';
import { RECORDERS, type Incoming, type Taken } from './recorders';
import { Recording } from './recorders/recording';

/** Frames that are late beside what comes in are simulated and not drawn, so many at the most. */
const MOST_LATE = 8;

/** The steps of a piece that is driven. */
interface Steps {
  /** The frame that the next step leads to. */
  next: () => number;
  /** Frames a second. */
  rate: number;
  /** Has frames behind the present one simulated anew. */
  forget: () => void;
  /** A step that is not drawn; false where every frame has to be, or there is none left. */
  skip: () => Promise<boolean>;
}

/** All that drives a piece from outside: what it is driven by is recorded before each step. */
export class Outside {
  readonly handTakes = new HandTakes();
  readonly plays: Plays;
  private readonly recordings: ReadonlyMap<string, Recording<Taken['take']>>;
  private readonly inputs: readonly Recording<Taken['take']>[];

  /** @param told gets takes when they are whole */
  constructor(told: {
    taken: (taken: Taken) => void;
    played: (played: Played[]) => void;
    recorded: (played: Played[]) => void;
  }) {
    this.plays = new Plays(told.played, told.recorded);
    const recordingOf = (list: RecordedList): Recording<Taken['take']> =>
      new Recording(list, (take) => {
        told.taken({ list, take } as Taken);
      });
    const lists = Object.keys(RECORDERS) as RecordedList[];
    this.recordings = new Map(lists.map((list) => [list, recordingOf(list)]));
    this.inputs = [...this.recordings.values()];
  }

  /** Recordings in progress, by signal, sound, picture or performer, and of controls and cues. */
  get takes(): ReadonlyMap<string, LiveInput> {
    const { handTakes, inputs, plays } = this;
    const takes = [...handTakes.takes, ...inputs.flatMap((input) => [...input.takes])];
    return new Map(plays.live ? [...takes, [PLAYED, plays.live]] : takes);
  }

  get driving(): boolean {
    const { handTakes, inputs, plays } = this;
    return plays.waiting || handTakes.driving || inputs.some((input) => input.driving);
  }

  /** Whether what comes in keeps the time, as a sound does. */
  get leads(): boolean {
    return this.inputs.some((input) => input.leads);
  }

  /** Has a live input drive a part of the piece from the next frame on. */
  open<L extends RecordedList>(
    list: L,
    part: string,
    from: Incoming[L],
    piece: Piece | null,
  ): void {
    this.recordings.get(list)!.open(RECORDERS[list](part, from), piece);
  }

  /** Ends what is recorded of one list of the piece, or of all, and tells it. */
  stop(piece: Piece | null, list?: RecordedList): void {
    const ended = list === undefined ? this.inputs : [this.recordings.get(list)!];
    for (const input of ended) input.stop(piece);
  }

  /** The piece has changed, and may have what was recorded; true where something else was played in it. */
  settle(piece: Piece): boolean {
    this.handTakes.kept();
    for (const input of this.inputs) input.settle(piece);
    return this.plays.settle(piece);
  }

  /** Records what the next frame is driven by; false where the plan has to be made for it first. */
  async record({ next, rate, forget, skip }: Steps): Promise<boolean> {
    const open = this.inputs.map((input) => input.at(next(), rate)).filter((one) => one !== null);
    if (open.some(([, begun]) => begun)) return false;
    const recorders = open.map(([recorder]) => recorder);
    const take = async (): Promise<void> => {
      this.handTakes.write(next());
      this.plays.write(next() / rate);
      for (const recorder of recorders) await recorder.until(next(), rate);
      forget();
    };
    await take();
    const behind = (): boolean => recorders.some((r) => (r.behind?.(rate) ?? 0) >= 1);
    // The picture keeps to what comes in.
    for (let n = 0; n < MOST_LATE && behind(); n++) {
      if (!(await skip())) break;
      await take();
    }
    for (const recorder of recorders) recorder.catchUp?.(rate);
    return true;
  }
}
