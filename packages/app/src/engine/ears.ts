import { kindOf, type LiveInput, type LiveSound, type Part, type Piece } from '@vast-swarm/core';
import { Ear, type HeardTake } from './ear';

/** What is recorded and on its way into the piece, until the piece has it. */
interface Kept {
  sound: string;
  input: LiveSound;
  /** The take that the piece had before. */
  before: unknown;
}

function takeOf(piece: Piece | null, sound: string): unknown {
  const part: Part | undefined = piece?.sounds.find((s) => s.id === sound);
  const records = part && kindOf('sounds', part.kind).records;
  return records && part.dials[records.take];
}

/** Live sound of a piece: one at a time is recorded while it drives. */
export class Ears {
  private ear: Ear | null = null;
  private kept: Kept | null = null;

  /** @param told gets each take when it is whole; null where nothing was recorded */
  constructor(private readonly told: (take: HeardTake | null) => void) {}

  /** What is being recorded, by sound. */
  get takes(): ReadonlyMap<string, LiveInput> {
    const takes = new Map<string, LiveInput>();
    if (this.kept) takes.set(this.kept.sound, this.kept.input);
    if (this.ear?.input) takes.set(this.ear.sound, this.ear.input);
    return takes;
  }

  get driving(): boolean {
    return this.ear !== null;
  }

  /** What drives the piece, begun at a frame where it was not; true as the second says that it was begun just now. */
  at(frame: number, frameRate: number): [Ear, begun: boolean] | null {
    const { ear } = this;
    if (!ear) return null;
    if (ear.input) return [ear, false];
    ear.begin(frame, frameRate);
    return [ear, true];
  }

  listen(sound: string, rate: number, port: MessagePort, piece: Piece | null): void {
    this.stop(piece);
    this.ear = new Ear(sound, rate, port);
  }

  /** Ends what is recorded, and tells it. */
  stop(piece: Piece | null): void {
    const { ear } = this;
    if (!ear) return;
    this.ear = null;
    const take = ear.end();
    if (take) this.kept = { sound: ear.sound, input: ear.input!, before: takeOf(piece, ear.sound) };
    this.told(take);
  }

  /** The piece has changed: where it names another take now, what was recorded is in it. */
  settle(piece: Piece): void {
    const { kept } = this;
    if (kept && takeOf(piece, kept.sound) !== kept.before) this.kept = null;
  }
}
