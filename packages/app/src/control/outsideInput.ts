import { learntActs, type Moved, type OutsideAct } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import { Listeners } from '../live/listeners';
import { hearMidi } from './midi';
import { Runner } from './runner';

/** All that runs the open piece from outside: messages at the server, and MIDI at this machine. */
export class OutsideInput {
  readonly runner: Runner;
  /** Whether MIDI is heard; null where that is not known yet. */
  midi: boolean | null = null;
  /** The place of the dial that is about to be learnt; null is none. */
  learning: string | null = null;
  private readonly watchers = new Listeners();
  readonly told = this.watchers.add;
  private readonly stands = new Map<string, number>();
  private learnt: ((source: string) => void) | null = null;
  private endMidi: (() => void) | null = null;
  private opened = false;

  /** @param act is called with what is asked for */
  constructor(
    private readonly piece: () => Piece | null,
    values: ConstructorParameters<typeof Runner>[0],
    private readonly act: (act: OutsideAct) => void,
  ) {
    this.runner = new Runner(values, act, (moved) => {
      this.move(moved);
    });
    this.runner.told(() => {
      this.watchers.tell();
    });
  }

  /** @param ask whether somebody is there to be asked for leave to hear MIDI */
  open(ask = true): void {
    if (this.opened) return;
    this.opened = true;
    this.runner.open();
    void hearMidi(ask, (moved) => {
      this.move(moved);
    }).then((end) => {
      this.midi = end !== null;
      if (this.opened) this.endMidi = end;
      else end?.();
      this.watchers.tell();
    });
  }

  close(): void {
    this.opened = false;
    this.endMidi?.();
    this.endMidi = null;
    this.midi = null;
    this.learn(null);
    this.runner.close();
  }

  /** Learns the next movement for a dial. */
  learn(place: string | null, learnt: ((source: string) => void) | null = null): void {
    if (place !== null) this.open();
    this.learning = place;
    this.learnt = learnt;
    this.watchers.tell();
  }

  private move(moved: Moved): void {
    const before = this.stands.get(moved.source) ?? 0;
    this.stands.set(moved.source, moved.value);
    const { learnt } = this;
    if (learnt) {
      this.learn(null);
      learnt(moved.source);
      return;
    }
    const piece = this.piece();
    if (piece) learntActs(piece, moved, before).forEach(this.act);
  }
}
