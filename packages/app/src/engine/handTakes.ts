import { LiveTake, type Take } from '@vast-swarm/core/feeds';
import { takeKey } from '@vast-swarm/core/plan';
import type { Piece } from '@vast-swarm/core/piece';

interface HandTake {
  take: LiveTake;
  value: number;
  /** Let go: what was recorded is on its way into the piece. */
  done: boolean;
}

/** Signals that are moved by hand while the piece plays: what moves them is recorded frame by frame. */
export class HandTakes {
  private readonly hands = new Map<string, HandTake>();

  /** Takes in progress, by signal. */
  get takes(): ReadonlyMap<string, LiveTake> {
    return new Map([...this.hands].map(([id, { take }]) => [id, take]));
  }

  get driving(): boolean {
    return [...this.hands.values()].some((h) => !h.done);
  }

  /** Moves a signal; true where it was not held before, and the plan has to be made for it. */
  drive(piece: Piece, signal: string, value: number): boolean {
    const held = this.hands.get(signal);
    if (held && !held.done) {
      held.value = value;
      return false;
    }
    const part = piece.signals.find((s) => s.id === signal);
    const key = part && takeKey(part);
    if (!key) return false;
    const { rest } = part.dials;
    const before = held?.take.copy() ?? (part.dials[key] as Take);
    const take = new LiveTake(before, piece.frame.rate, typeof rest === 'number' ? rest : 0);
    this.hands.set(signal, { take, value, done: false });
    return true;
  }

  /** Before a step to `frame`: what is held now is what it is at the end of it. */
  write(frame: number): void {
    for (const { take, value, done } of this.hands.values()) if (!done) take.write(frame, value);
  }

  /** Lets a signal go; gives what was recorded. */
  release(signal: string): Take | null {
    const hand = this.hands.get(signal);
    if (!hand || hand.done) return null;
    hand.done = true;
    return hand.take.copy();
  }

  /** The piece has what was recorded of those that were let go. */
  kept(): void {
    for (const [id, { done }] of this.hands) if (done) this.hands.delete(id);
  }
}
