import { doneIn, playedIn, type Done, type NightRow } from '@vast-swarm/core/show';
import type { Played } from '@vast-swarm/core/piece';

/** A night that is seen again: what was played in each stretch of it, and what was done at its frames. */
export class Replay {
  private stretch = 0;
  private due: { at: number; act: Done }[] = [];

  constructor(private readonly rows: readonly NightRow[]) {}

  /** Acts in a stretch. */
  played(stretch: number): Played[] {
    return playedIn(this.rows, stretch);
  }

  /** The entry that comes behind a stretch and those in which its time jumps, and the stretch at which it begins. */
  next(stretch: number): { entry: string; stretch: number } | null {
    for (const row of this.rows) {
      const { act } = row;
      if (row.stretch < stretch || !('all' in act) || act.all !== 'go') continue;
      return { entry: act.entry, stretch: row.stretch + 1 };
    }
    return null;
  }

  /**
   * The picture has come to a second of the piece.
   *
   * @param again is called with what was done at it, in order
   */
  reached(stretch: number, second: number, again: (act: Done) => void): void {
    if (stretch !== this.stretch) {
      this.stretch = stretch;
      this.due = doneIn(this.rows, stretch);
    }
    while (this.due[0] && this.due[0].at <= second + 1e-6) {
      const { act } = this.due.shift()!;
      again(act);
      // What comes behind it belongs to another stretch.
      if (act.all === 'go' || act.all === 'jump') return;
    }
  }
}
