import { kindOf, type RecordedList } from '@vast-swarm/core/kinds';
import type { LiveInput } from '@vast-swarm/core/plan';
import type { Part, Piece } from '@vast-swarm/core/piece';

/** A recorder of a live input that drives a part of the piece; its input is there once it was begun. */
export interface Recorder<I extends LiveInput, T> {
  /** Id of the part. */
  readonly part: string;
  readonly input: I | null;
  /** Begins a take at a frame of a piece with so many frames a second. */
  begin: (frame: number, frameRate: number) => void;
  /** Before a step to `frame`: takes what has come in, and waits for what has to be there. */
  until: (frame: number, frameRate: number) => Promise<void> | void;
  /** Ends the take; null where nothing was recorded. */
  end: () => T | null;
  /** Where it keeps the time: frames that have come in and were not taken yet. */
  behind?: (frameRate: number) => number;
  /** Leaves out what cannot be kept up with. */
  catchUp?: (frameRate: number) => void;
}

/** A take on its way into the piece, until the piece has it. */
interface Kept {
  part: string;
  input: LiveInput;
  /** The take that the piece had before. */
  before: unknown;
}

function takeOf(piece: Piece | null, list: RecordedList, id: string): unknown {
  const part: Part | undefined = piece?.[list].find((p) => p.id === id);
  const records = part && kindOf(list, part.kind).records;
  return records && part.dials[records.take];
}

/** Live inputs of one list of a piece: one at a time is recorded while it drives. */
export class Recording<T> {
  private recorder: Recorder<LiveInput, T> | null = null;
  private kept: Kept | null = null;

  /** @param told gets each take when it is whole; null where nothing was recorded */
  constructor(
    private readonly list: RecordedList,
    private readonly told: (take: T | null) => void,
  ) {}

  /** Recordings in progress, by part. */
  get takes(): ReadonlyMap<string, LiveInput> {
    const takes = new Map<string, LiveInput>();
    if (this.kept) takes.set(this.kept.part, this.kept.input);
    if (this.recorder?.input) takes.set(this.recorder.part, this.recorder.input);
    return takes;
  }

  get driving(): boolean {
    return this.recorder !== null;
  }

  /** Whether it keeps the time: the picture follows what comes in. */
  get leads(): boolean {
    return this.recorder?.behind !== undefined;
  }

  /** The recorder, begun at a frame where it was not; true as the second says that it was begun just now. */
  at(frame: number, frameRate: number): [Recorder<LiveInput, T>, begun: boolean] | null {
    const { recorder } = this;
    if (!recorder) return null;
    if (recorder.input) return [recorder, false];
    recorder.begin(frame, frameRate);
    return [recorder, true];
  }

  /** From the next frame on this one drives the piece. */
  open(recorder: Recorder<LiveInput, T>, piece: Piece | null): void {
    this.stop(piece);
    this.recorder = recorder;
  }

  /** Ends what is recorded, and tells it. */
  stop(piece: Piece | null): void {
    const { recorder, list } = this;
    if (!recorder) return;
    this.recorder = null;
    const take = recorder.end();
    const { part, input } = recorder;
    if (take) this.kept = { part, input: input!, before: takeOf(piece, list, part) };
    this.told(take);
  }

  /** The piece has changed: where it names another take now, what was recorded is in it. */
  settle(piece: Piece): void {
    const { kept } = this;
    if (kept && takeOf(piece, this.list, kept.part) !== kept.before) this.kept = null;
  }
}
