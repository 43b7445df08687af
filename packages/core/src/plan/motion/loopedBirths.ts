import { phaseOf, roundOf, type Looping } from '../../feeds/loop';
import type { BirthEvent, Births, BirthSchedule } from './births';

/**
 * The births of a piece that comes round: the same in each round, at the same moments. Rounds have ids of their own, in
 * steps of `ids`, so that what is born at a moment of it takes the same slots again, or turns with so many rounds.
 */
export class LoopedBirths implements Births {
  /**
   * @param round of one round, from 0 seconds on
   * @param ids as many as one round has at the least, a multiple of 4
   * @param ahead rounds that ids are ahead at the first frame: no fewer than come before it, for ids begin at 0
   */
  constructor(
    private readonly round: BirthSchedule,
    private readonly frame: Looping,
    private readonly ids: number,
    private readonly ahead: number,
  ) {}

  private firstOf(frame: number): number {
    return (roundOf(this.frame, frame) + this.ahead) * this.ids;
  }

  private seconds(frame: number, more: number): number {
    return (phaseOf(this.frame, frame) + more) / this.frame.rate;
  }

  bornAt(frame: number): number {
    return this.firstOf(frame) + Math.min(this.ids, this.round.bornBefore(this.seconds(frame, 1)));
  }

  inFrame(frame: number): BirthEvent[] {
    const first = this.firstOf(frame);
    return this.round
      .between(this.seconds(frame, 0), this.seconds(frame, 1))
      .map((event) => ({ ...event, count: Math.min(event.count, this.ids - event.first) }))
      .filter(({ count }) => count > 0)
      .map((event) => ({ ...event, first: first + event.first }));
  }
}
