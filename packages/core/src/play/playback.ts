import { phaseOf } from '../feeds/loop';
import type { Plan } from '../plan/plan';
import type { Engine, Snapshot } from './engine';

/** Frames from one snapshot to the next, to begin with. */
const INTERVAL = 10;
/** Rounds of a loop that an engine goes on for; ids have an end. */
const MOST_ROUNDS = 60;

/**
 * Goes to any frame, backwards too: from the nearest snapshot before it. When a dial of motion is
 * turned the state goes on as it is, so that playing does not stop; it is then no longer `exact`, until
 * time has been run from the start again: by going to a frame, or beside what is shown (see `mend`).
 *
 * @example
 * const playback = new Playback(engine, 2 ** 28);
 * playback.setPlan(plan);
 * playback.seek(200);
 * // A slice at a time, with a look at other things between.
 * for (let left = playback.approach(90); left > 0; left--) {
 *   await playback.ready();
 *   playback.advance();
 * }
 */
export class Playback {
  private snapshots: Snapshot[] = [];
  private interval = INTERVAL;
  private plan: Plan | null = null;
  private right = true;
  /** How far the right state has come, while another is shown. */
  private mended: Snapshot | null = null;

  constructor(
    private readonly engine: Engine,
    /** Bytes that snapshots may take. */
    private readonly budget: number,
  ) {}

  /** The frame of the piece that is there: where it comes round, the engine goes on and on. */
  get frame(): number {
    return this.phase(this.engine.frame);
  }

  private phase(frame: number): number {
    return this.plan && frame >= 0 ? phaseOf(this.plan.frame, frame) : frame;
  }

  /** Whether the frame behind the last may be gone to by going on. */
  get comesRound(): boolean {
    const { frame } = this.plan!;
    return frame.loop === true && this.engine.frame < MOST_ROUNDS * frame.length;
  }

  /** Whether the state is the one that the piece defines for this frame. */
  get exact(): boolean {
    return this.right;
  }

  private setExact(exact: boolean): void {
    this.right = exact;
    this.mended?.release();
    this.mended = null;
  }

  setPlan(plan: Plan): void {
    const before = this.plan;
    this.plan = plan;
    this.engine.setPlan(plan);
    // Where the finish remembers, what it remembers depends on every look.
    if (before?.motionKey === plan.motionKey && !plan.finish.remembers) return;
    this.doubt();
    if (!before) this.setExact(true);
    if (before && before.frame.rate !== plan.frame.rate) this.restart();
    if (before && before.frame.preroll !== plan.frame.preroll) this.restart();
  }

  /** Tells that the inputs of the state have changed: from the first step on it may be wrong. */
  doubt(): void {
    this.clear();
    this.setExact(this.engine.frame < -this.plan!.frame.preroll);
  }

  /** Before the first frame, with nothing born. */
  restart(): void {
    this.engine.reset();
    this.setExact(true);
  }

  /** Resolves when all is at hand that the next frame takes, and the picture of this one. */
  ready(): Promise<void> {
    return this.engine.ready();
  }

  /** One frame on. */
  advance(): void {
    this.engine.step();
    if (this.exact && !this.plan?.swarms.every((s) => s.bake)) this.keep();
  }

  /**
   * Runs time from the start again beside the state that is shown, until that of the present frame is
   * there and takes its place, or until it is `enough`; the next call goes on from there.
   *
   * @param enough asked before every step
   */
  async mend(enough: () => boolean): Promise<void> {
    if (this.right) return;
    const { engine, mended } = this;
    const shown = engine.save();
    if (mended) engine.restore(mended);
    else engine.reset();
    const goal = this.phase(shown.frame);
    while (engine.frame < goal && !enough()) {
      await engine.ready();
      engine.step();
    }
    mended?.release();
    this.mended = null;
    if (engine.frame === goal) this.setExact(true);
    else {
      this.mended = engine.save();
      engine.restore(shown);
    }
    shown.release();
  }

  /** Readies to reach `frame` exactly; gives the number of steps that are left to it. */
  approach(frame: number): number {
    if (this.engine.jump(frame)) {
      this.setExact(true);
      return 0;
    }
    // Where the finish remembers, its past has to have been drawn too.
    const { finish, runIn } = this.plan!;
    const needed = finish.remembers;
    const usable = this.exact && this.frame <= frame && (!needed || this.engine.remembers);
    const best = this.snapshots
      .filter((s) => s.frame <= frame && (!needed || s.remembers || s.frame < -runIn))
      .at(-1);
    if (best && (!usable || best.frame > this.frame)) {
      this.engine.restore(best);
      this.setExact(true);
    } else if (!usable) this.restart();
    return frame - this.frame;
  }

  /** The exact state of `frame`, at once. */
  seek(frame: number): void {
    for (let left = this.approach(frame); left > 0; left--) this.advance();
  }

  private keep(): void {
    const { frame } = this.engine;
    if (frame % this.interval !== 0 || frame !== this.frame) return;
    const last = this.snapshots.at(-1);
    if (last && last.frame >= frame) return;
    this.snapshots.push(this.engine.save());
    const bytes = this.snapshots.reduce((sum, s) => sum + s.bytes, 0);
    if (bytes > this.budget) this.thin();
  }

  /** Keeps every other snapshot; from now on they are made half as often. */
  private thin(): void {
    this.interval *= 2;
    const keep = this.snapshots.filter((s) => s.frame % this.interval === 0);
    for (const s of this.snapshots) if (!keep.includes(s)) s.release();
    this.snapshots = keep;
  }

  /** Forgets what was after the present frame: it is about to be another. */
  forgetAfter(): void {
    this.forgetFrom(this.frame + 1);
  }

  /** The present frame came of something that is another by now; those before it did not. */
  redo(): void {
    this.forgetFrom(this.frame);
    this.setExact(false);
  }

  private forgetFrom(frame: number): void {
    const [kept, gone] = [[] as Snapshot[], [] as Snapshot[]];
    for (const s of this.snapshots) (s.frame < frame ? kept : gone).push(s);
    for (const s of gone) s.release();
    this.snapshots = kept;
  }

  clear(): void {
    for (const s of this.snapshots) s.release();
    this.snapshots = [];
    this.interval = INTERVAL;
  }
}
