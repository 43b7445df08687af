import { fadeAt, NEARLY, type ControlValue, type Fade } from '../../feeds/control';

/** The course of one control in time: its value at rest, and the fades it is sent on. */
export class Course {
  private readonly fades: Fade[] = [];

  constructor(private readonly resting: ControlValue) {}

  /** Its value at a second. */
  at(time: number): ControlValue {
    const { fades } = this;
    // The last that has begun: what it overtook is of no account any more.
    let [low, high] = [0, fades.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (fades[middle]!.at < time - NEARLY) low = middle + 1;
      else high = middle;
    }
    const last = fades[low - 1];
    return last ? fadeAt(last, time) : this.resting;
  }

  /** From a second on it goes somewhere else, from where it stands then; seconds come in order. */
  send({ at, over, ease, to }: Omit<Fade, 'from'>): void {
    const { fades } = this;
    const last = fades.at(-1);
    // Of those that come at one moment the last counts.
    if (last && Math.abs(last.at - at) <= NEARLY) fades.pop();
    fades.push({ at, over, ease, from: last ? fadeAt(last, at) : this.resting, to });
  }

  /** The way that it is on at a second, and the seconds that are left of it; null where it stands. */
  rest(time: number): { to: ControlValue; left: number } | null {
    const last = this.fades.findLast((f) => f.at < time - NEARLY);
    const left = last ? last.at + last.over - time : 0;
    return last && left > NEARLY ? { to: last.to, left } : null;
  }

  clear(): void {
    this.fades.length = 0;
  }
}
