import { z } from '../zod';
import { controlValueSchema } from '../feeds/control';
import { EASES } from '../feeds/shape';

/** Most things that are played in one piece. */
const MOST = 200_000;

const second = z.number().min(-3600).max(1e6);
const id = z.string().min(1).max(64);

const setSchema = z.strictObject({
  /** Seconds; it counts for what is behind this moment. */
  at: second,
  control: id,
  to: controlValueSchema,
  /** Seconds that the change takes; at once where nothing is said. */
  over: z.number().min(0).max(3600).optional(),
  ease: z.enum(EASES).optional(),
});

const fireSchema = z.strictObject({ at: second, cue: id });

/** A control that was set, or a cue that was fired. */
export const playSchema = z.union([setSchema, fireSchema]);
export type Played = z.infer<typeof playSchema>;

export const playedSchema = z
  .array(playSchema)
  .max(MOST)
  .refine((all) => all.every((p, i) => i === 0 || p.at >= all[i - 1]!.at), {
    message: 'what was played must stand in order of time',
  });

/** All that was played, in the piece and beside it, in order; of two at one second the latter counts. */
export function allPlayed(played: readonly Played[], beside: readonly Played[]): Played[] {
  return [...played, ...beside].sort((a, b) => a.at - b.at);
}

/** Name of the live input that is being played, which no part has. */
export const PLAYED = '/played';

/** A growing recording of controls and cues, in place of that of the piece while it runs. */
export class LivePlay {
  readonly events: Played[];
  /** The second of each change, in the order in which they came. */
  private readonly written: number[] = [];

  constructor(before: readonly Played[]) {
    this.events = [...before];
  }

  /** Adds what is played at a second; what was there of the same second stands before it. */
  add(event: Played): void {
    const { events } = this;
    let at = events.length;
    while (at > 0 && events[at - 1]!.at > event.at) at--;
    events.splice(at, 0, event);
    this.written.push(event.at);
  }

  /** Takes out settings of a control from one second up to and with another: it is played anew. */
  clear(control: string, from: number, until: number): void {
    const gone = (e: Played): boolean =>
      'control' in e && e.control === control && e.at >= from && e.at <= until;
    if (!this.events.some(gone)) return;
    const kept = this.events.filter((e) => !gone(e));
    this.events.splice(0, this.events.length, ...kept);
    this.written.push(from);
  }

  /** All of it is another: time has jumped. */
  replace(events: readonly Played[]): void {
    this.events.splice(0, this.events.length, ...events);
    this.written.push(-Infinity);
  }

  /** Grows with every change. */
  get changes(): number {
    return this.written.length;
  }

  /** The second from which on it may be something else, since it had changed so often at the least. */
  changedFrom(changes: number): number {
    return this.written.slice(changes).reduce((first, at) => Math.min(first, at), Infinity);
  }
}
