import type { FrameSettings } from '../piece/types';
import { framesOf, type Entry, type Show } from './show';

/** The part of a piece that a conductor needs. */
export type Frames = Pick<FrameSettings, 'rate' | 'length'>;

/** Seconds in which one that has begun is left alone. */
const CALM = 2;

/** An entry of a show, as it is run once. */
export interface Pass {
  readonly number: number;
  readonly entry: Entry;
  /** The first frame of the entry, and the one behind its last. */
  readonly from: number;
  readonly until: number;
  /** The frame at which it begins to be seen. */
  readonly begun: number;
  readonly rate: number;
  /** Frames in which it comes in. */
  readonly fade: number;
  /** The frame that is shown. */
  at: number;
  /** Whether its first frame stands there, and it can begin. */
  ready: boolean;
}

/** The player that follows a conductor. */
export interface Stage {
  /** A pass is made ready: loaded, and its first frame drawn, unseen. Then `ready` is called. */
  prepare: (pass: Pass) => void;
  /** It begins to be seen. */
  begin: (pass: Pass) => void;
  /** It goes on at a frame, with controls as they stand. */
  jump: (pass: Pass, frame: number) => void;
  remove: (pass: Pass) => void;
}

/**
 * Runs the entries of a show, one after the other: which is seen, which is on its way out, and which is made ready
 * behind the scenes, since none begins before it is. All it goes by is frames that were shown and what is asked for, so
 * that the same of these gives the same night.
 */
export class Conductor {
  present: Pass | null = null;
  /** The pass before, as long as the present one comes in over it. */
  leaving: Pass | null = null;
  coming: Pass | null = null;
  /** Whether the next is to begin as soon as it is ready. */
  wanted = false;
  /** Whether what comes was said to, whatever stands behind the present one. */
  private called = false;
  private count = 0;

  /**
   * @param framesOfPiece null where there is no such piece
   * @param led where somebody else says what is next, gives that entry's id; then none begins or repeats by itself
   */
  constructor(
    private show: Show,
    private readonly framesOfPiece: (piece: string) => Frames | null,
    private readonly stage: Stage,
    private readonly led: (() => string | null) | null = null,
  ) {}

  /** The first entry is made ready. */
  open(): void {
    const { next } = this;
    if (next && !this.coming) this.prepare(next);
  }

  /** Nothing is played any more. */
  close(): void {
    this.wanted = false;
    this.called = false;
    for (const which of ['leaving', 'present', 'coming'] as const) this.drop(which);
  }

  /** An entry is the next, whatever stands behind the present one. */
  call(id: string): void {
    const entry = this.entries.find((e) => e.id === id);
    if (!entry || this.coming?.entry.id === id) return;
    this.drop('coming');
    this.called = true;
    this.prepare(entry);
  }

  /**
   * The show, or one of its pieces, is another by now. What is seen goes on.
   *
   * @param changed pieces that are another
   */
  setShow(show: Show, changed: ReadonlySet<string> = new Set()): void {
    this.show = show;
    const { coming } = this;
    if (!coming) {
      if (!this.present) this.open();
      return;
    }
    const { entry } = coming;
    const now = show.entries.find((e) => e.id === entry.id);
    const same = JSON.stringify(now) === JSON.stringify(entry) && !changed.has(entry.piece);
    if (same && (this.called || this.wanted || this.next?.id === entry.id)) return;
    this.drop('coming');
    const next = this.called && now ? now : this.next;
    if (next) this.prepare(next);
  }

  /** Entries that can be played, in order. */
  private get entries(): Entry[] {
    return this.show.entries.filter((e) => this.framesOfPiece(e.piece) !== null);
  }

  /** The entry behind the present one; null behind the last. */
  get next(): Entry | null {
    const { entries, present, show, led } = this;
    if (led) {
      const id = led();
      return entries.find((e) => e.id === id) ?? null;
    }
    if (!present) return entries[0] ?? null;
    const at = show.entries.findIndex((e) => e.id === present.entry.id);
    const behind = show.entries.slice(at + 1).find((e) => entries.includes(e));
    return behind ?? (show.again ? (entries[0] ?? null) : null);
  }

  /** The present entry as it stands in the show by now. */
  private get entry(): Entry | null {
    const { present, show } = this;
    return show.entries.find((e) => e.id === present?.entry.id) ?? present?.entry ?? null;
  }

  /**
   * Goes to an entry as soon as it is ready, or to the next one.
   *
   * @param from the frame at which it begins, where that is not its own first
   * @returns whether there is such a one that can be played
   */
  go(id?: string, from?: number): boolean {
    const entry =
      id === undefined
        ? (this.coming?.entry ?? this.next)
        : (this.entries.find((e) => e.id === id) ?? null);
    if (!entry) return false;
    this.wanted = true;
    if (this.coming?.entry.id !== entry.id) this.drop('coming');
    this.called ||= id !== undefined;
    if (!this.coming) this.prepare(entry, from);
    else if (this.coming.ready) this.advance();
    return true;
  }

  /** The first frame of a pass stands there. */
  ready(number: number): void {
    const { coming } = this;
    if (coming?.number !== number) return;
    coming.ready = true;
    if (this.wanted) this.advance();
  }

  /** A frame of a pass was shown. */
  reached(number: number, frame: number): void {
    const { present, leaving, coming } = this;
    if (leaving?.number === number) leaving.at = frame;
    if (!present || present.number !== number) return;
    present.at = frame;
    if (leaving && this.mix >= 1) this.drop('leaving');
    if (!this.leaving && !coming && this.calm(present)) this.prepareNext();
    const last = present.until - 1;
    if (this.goesOnByTime) {
      // Where it has begun behind its end or near it, it is seen for a frame.
      if (frame >= last - this.fadeOut(present) && !this.wanted) this.go();
    } else if (frame >= last && this.entry?.next !== 'time' && !this.led) this.jump(present.from);
  }

  /** Somebody lets the present entry go on elsewhere. */
  jump(frame: number): void {
    const { present } = this;
    if (!present) return;
    this.drop('leaving');
    const inside = Math.min(present.until - 1, Math.max(0, frame));
    present.at = inside - 1;
    this.stage.jump(present, inside);
  }

  /** A cue of the present piece has begun. */
  cued(cue: string): void {
    const { entry } = this;
    if (entry?.next === 'cue' && entry.cue === cue) this.go();
  }

  /** Whether the present entry ends by itself. */
  get goesOnByTime(): boolean {
    return this.entry?.next === 'time' && this.next !== null && !this.led;
  }

  /** How much of the present one is seen over the one that leaves, 0 to 1. */
  get mix(): number {
    const { present, leaving } = this;
    if (!present || !leaving) return 1;
    return Math.min(1, Math.max(0, (present.at - present.begun + 1) / present.fade));
  }

  /** Seconds of the present piece up to its end, at its own speed. */
  get left(): number {
    const { present } = this;
    return present ? Math.max(0, present.until - 1 - present.at) / present.rate : 0;
  }

  /** Whether one has begun for long enough: to make another ready takes time from it. */
  private calm({ at, begun, until, rate }: Pass): boolean {
    return at - begun >= Math.min(CALM * rate, (until - begun) / 3);
  }

  /** Frames of the present one in which the next comes in over it. */
  private fadeOut(present: Pass): number {
    const fade = this.coming?.entry.fade ?? this.next?.fade ?? 0;
    return Math.min(Math.round(fade * present.rate), present.until - 1 - present.from);
  }

  private prepareNext(): void {
    const { next } = this;
    if (next && this.present && !this.coming) this.prepare(next);
  }

  private prepare(entry: Entry, begin?: number): void {
    const frames = this.framesOfPiece(entry.piece);
    if (!frames) return;
    const { from, until } = framesOf(entry, frames);
    const first = Math.min(until - 1, begin ?? from);
    this.coming = {
      number: (this.count += 1),
      entry,
      until,
      rate: frames.rate,
      from,
      begun: first,
      at: first - 1,
      ready: false,
      fade: Math.max(0, Math.round(entry.fade * frames.rate)),
    };
    this.stage.prepare(this.coming);
  }

  /** The next is the present one. */
  private advance(): void {
    this.wanted = false;
    this.called = false;
    this.drop('leaving');
    this.leaving = this.present;
    this.present = this.coming;
    this.coming = null;
    if (this.present!.fade === 0) this.drop('leaving');
    this.stage.begin(this.present!);
  }

  private drop(which: 'leaving' | 'present' | 'coming'): void {
    const pass = this[which];
    this[which] = null;
    if (pass) this.stage.remove(pass);
  }
}
