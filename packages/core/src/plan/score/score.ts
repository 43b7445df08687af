import { cueDials } from '../../sections/cues/cue';
import type { Follow, LiveClock } from '../../sections/kinds';
import { STEP } from '../../sections/signals/inSteps';
import { NEARLY, type ControlValue } from '../../feeds/control';
import { valuesOf, type ValuesOf } from '../../language/dials';
import { cueBehind, restOf, within } from '../../piece/controls';
import type { Played } from '../../piece/played';
import type { Piece } from '../../piece/types';
import { Course } from './course';

type CueValues = ValuesOf<typeof cueDials>;

/** Particles that cues let be born, in order of time. */
export type Bursts = readonly { at: number; count: number }[];

/** Effects of cues beside fades of controls, with the second of each. */
export interface Deeds {
  bursts: { at: number; swarm: string; count: number }[];
  resets: number[];
  sounds: { at: number; sound: string }[];
  /** Cues that were fired, as they began. */
  begun: { at: number; cue: string }[];
}

/** Seconds: before everything, and just before something else. */
const [LONG_BEFORE, JUST] = [-3600, 1e-6];

/** Something that is to happen. */
interface Due {
  at: number;
  /** A cue is fired, or it has waited. */
  happens: { fire: string } | { begin: string };
}

/**
 * The course of a piece's controls over its time, in the order of the seconds: cues that stand
 * on the timing strip, what was played by hand and from outside, cues that follow others, and those that signals
 * fire, looked at in steps of 1/240 s. Found as far as it is asked for, and kept.
 */
export class Score {
  private readonly courses = new Map<string, Course>();
  private readonly deeds: Deeds = { bursts: [], resets: [], sounds: [], begun: [] };
  private readonly cues: ReadonlyMap<string, CueValues>;
  private readonly watched: readonly { id: string; signal: string; threshold: number }[];
  /** Cues on the timing strip. */
  private readonly timed: readonly Due[];
  /** Cues that are due beside what was played, in order, and the first of them that has not happened. */
  private due: Due[] = [];
  private nextDue = 0;
  private nextPlayed = 0;
  /** Fired by signals so far: kept where what was played changes, since nothing before the change is another then. */
  private struck: { at: number; cue: string }[] = [];
  private known = -Infinity;
  /** Steps whose signals were looked at. */
  private steps = 0;
  private seen = 0;
  private busy = false;
  private follows: ReadonlyMap<string, Follow> | null = null;

  /**
   * @param played what was played, in order; where it grows, `live` tells
   * @param signals made of controls as they are known, for cues that signals fire
   */
  constructor(
    private readonly piece: Piece,
    private readonly played: readonly Played[],
    private readonly live: LiveClock,
    private readonly signals: (controls: Score) => ReadonlyMap<string, Follow>,
  ) {
    for (const control of piece.controls) {
      if (control.on) this.courses.set(control.id, new Course(restOf(control)));
    }
    const on = piece.cues.filter((c) => c.on);
    this.cues = new Map(on.map((c) => [c.id, valuesOf(cueDials, c.dials)]));
    const all = [...this.cues];
    this.timed = all
      .filter(([, { by }]) => by === 'yes')
      .map(([id, { at }]) => ({ at, happens: { fire: id } }));
    this.watched = all.flatMap(([id, { signal, threshold }]) =>
      signal ? [{ id, signal, threshold }] : [],
    );
    this.begin();
  }

  /** The value of a control at a second; undefined where there is none of that id, or it is switched off. */
  at(control: string, time: number): ControlValue | undefined {
    this.reach(time);
    return this.courses.get(control)?.at(time);
  }

  /** Effects of cues, in order, at least up to a second: of those behind it not all may be known. */
  until(time: number): Readonly<Deeds> {
    this.reach(time);
    return this.deeds;
  }

  /**
   * The acts by which controls, from a second on, are what they are at another, and go on where they are
   * on their way: where time jumps, they do not.
   */
  carried(time: number, to: number): Played[] {
    this.reach(time);
    const begun = [...this.courses].map(([control, course]) => {
      return { control, value: course.at(time), rest: course.rest(time) };
    });
    return [
      ...begun.map(({ control, value }) => ({ at: LONG_BEFORE, control, to: value })),
      ...begun.map(({ control, value }) => ({ at: to - 2 * JUST, control, to: value })),
      ...begun.flatMap(({ control, rest }): Played[] => {
        if (!rest) return [];
        return [{ at: to - JUST, control, to: rest.to, over: rest.left, ease: 'straight' }];
      }),
    ];
  }

  /** Everything from the beginning again. */
  private begin(): void {
    for (const course of this.courses.values()) course.clear();
    for (const list of Object.values(this.deeds) as unknown[][]) list.length = 0;
    const struck = this.struck.map(({ at, cue }): Due => ({ at, happens: { fire: cue } }));
    this.due = [...this.timed, ...struck].sort((a, b) => a.at - b.at);
    this.nextDue = 0;
    this.nextPlayed = 0;
    this.known = -Infinity;
  }

  /** Takes in what has changed of what is being played. */
  private notice(): void {
    const changes = this.live.changes();
    if (changes === this.seen) return;
    const from = this.live.changedFrom(this.seen);
    this.seen = changes;
    if (from >= this.known - NEARLY) {
      // Nothing has happened yet of what is new.
      const { played } = this;
      this.nextPlayed = played.length;
      while (this.nextPlayed > 0 && played[this.nextPlayed - 1]!.at >= this.known - NEARLY) {
        this.nextPlayed -= 1;
      }
      return;
    }
    this.struck = this.struck.filter((s) => s.at < from);
    this.steps = Math.min(this.steps, Math.max(0, Math.floor(from / STEP)));
    this.begin();
  }

  /** All that happens before a second. */
  private reach(time: number): void {
    // Signals that fire cues read controls, as far as they are known.
    if (this.busy) return;
    this.notice();
    if (time <= this.known) return;
    this.busy = true;
    try {
      this.watch(time);
      this.happen(time);
      this.known = time;
    } finally {
      this.busy = false;
    }
  }

  /** Looks at the signals that fire cues, step by step, with all that has happened before each. */
  private watch(time: number): void {
    if (this.watched.length === 0) return;
    while ((this.steps + 1) * STEP < time) {
      const [was, is] = [this.steps * STEP, (this.steps + 1) * STEP];
      this.happen(is);
      for (const { id, signal, threshold } of this.watched) {
        this.follows ??= this.signals(this);
        const follow = this.follows.get(signal);
        if (!follow || follow(was) >= threshold || !(follow(is) >= threshold)) continue;
        this.struck.push({ at: is, cue: id });
        this.add({ at: is, happens: { fire: id } });
      }
      this.steps += 1;
    }
  }

  /** All before a second; of what comes at the same one, what was played comes last. */
  private happen(time: number): void {
    for (;;) {
      const due = this.due[this.nextDue];
      const played = this.played[this.nextPlayed];
      const isDue = due !== undefined && !(played && played.at < due.at - NEARLY);
      const at = isDue ? due.at : played?.at;
      if (at === undefined || at >= time - NEARLY) return;
      if (isDue) this.nextDue += 1;
      else this.nextPlayed += 1;
      if (!isDue) this.play(played!);
      else if ('fire' in due.happens) this.fire(due.happens.fire, at);
      else this.perform(due.happens.begin, at);
    }
  }

  private play(played: Played): void {
    if ('cue' in played) this.fire(played.cue, played.at);
    else this.set(played, played.at);
  }

  /** Behind all that comes at the same second. */
  private add(due: Due): void {
    let at = this.due.length;
    while (at > this.nextDue && this.due[at - 1]!.at > due.at) at--;
    this.due.splice(at, 0, due);
  }

  private set({ control, to, over, ease }: Extract<Played, { control: string }>, at: number): void {
    const part = this.piece.controls.find((c) => c.id === control);
    const course = this.courses.get(control);
    if (!part || !course) return;
    course.send({ at, over: over ?? 0, ease: ease ?? 'smooth', to: within(part, to) });
  }

  private fire(id: string, at: number): void {
    const cue = this.cues.get(id);
    if (!cue) return;
    if (cue.wait > 0) this.add({ at: at + cue.wait, happens: { begin: id } });
    else this.perform(id, at);
  }

  private perform(id: string, at: number): void {
    const cue = this.cues.get(id)!;
    for (const { control, to } of cue.sets) {
      this.set({ at, control, to, over: cue.over, ease: cue.ease }, at);
    }
    const { bursts, resets, sounds, begun } = this.deeds;
    for (const { swarm, count } of cue.bursts) if (count > 0) bursts.push({ at, swarm, count });
    if (cue.resets === 'anew') resets.push(at);
    if (cue.sound) sounds.push({ at, sound: cue.sound });
    begun.push({ at, cue: id });
    const next = cueBehind(this.piece.cues, id)?.id;
    if (!next || cue.next === 'rests') return;
    if (cue.next === 'together') this.fire(next, at);
    else this.add({ at: at + cue.over, happens: { fire: next } });
  }
}
