import { StockError, type StockFiles } from '@vast-swarm/core/stock';
import { MemoryFull } from '@vast-swarm/cpu';
import { Playback, type Census, type LiveEngine, type MediumCensus } from '@vast-swarm/core/play';
import { secondIn, type Plan } from '@vast-swarm/core/plan';
import type { CameraPose, RecordedList } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { Baker } from './baker';
import { Compiler } from './compiler';
import { Follower } from './follower';
import { Hearing } from './hearing';
import type { Play } from './plays';
import type { Incoming } from './recorders';
import type { Looking } from './looking';
import { Outside } from './outside';
import type { BakeFile, EngineEvent, PreviewChoice, Run, Spot } from './messages';
import { pause } from './pause';
import { PreviewSize } from './previewSize';
import { Reporter } from './reporter';
import { Truth } from './truth';

const SNAPSHOT_BYTES = 384 * 2 ** 20;
/** Longest stretch of simulating without a look at the messages, in milliseconds. */
const SLICE = 24;
/** Milliseconds that an edit may take to be shown true at once while the piece plays. */
const AT_ONCE = 100;
/** While a far frame is approached, a frame on the way is shown this often. */
const GLIMPSE = 120;

/** So many frames the picture may be behind a sound; beyond, it slows down. */
const MOST_LATE = 8;

/** Seconds: what comes just before a frame's end is seen in it. */
const JUST = 1e-5;

/** The part of a frame's time that a picture may take beside a sound. */
const SPARE = 0.7;

/** Runs the open piece: plays, seeks, redraws, and keeps the preview as large as time allows. */
export class Session {
  private readonly playback: Playback;
  private piece: Piece | null = null;
  private pending: Piece | null = null;
  private plan: Plan | null = null;
  private playing = false;
  private target: number | null = null;
  /** The frame behind the last of what is run for a show. */
  private until: number | null = null;
  private speed = 1;
  private lateFrames = 0;
  private glimpses = false;
  private dirty = false;
  /** Whether acts were taken back that the state still has. */
  private doubtful = false;
  /** Standing still the frame is drawn once more, as large as there is room for. */
  private coarse = false;
  private running = false;
  private asked = false;
  private readonly size = new PreviewSize();
  private lastGlimpse = 0;
  private due = 0;
  private readonly baker: Baker;
  private readonly follower: Follower;
  private readonly outside = new Outside({
    taken: (taken) => {
      this.send({ type: 'taken', taken });
    },
    played: (played) => {
      this.send({ type: 'played', played });
    },
    recorded: (played) => {
      this.send({ type: 'recorded', played });
    },
  });
  private readonly truth: Truth;
  private readonly compiler: Compiler;
  private readonly reporter: Reporter;
  /** Answers on sounds and signals. */
  readonly hearing = new Hearing(() => ({
    piece: this.latest,
    plan: this.pending ? null : this.plan,
    files: this.compiler.files,
    live: this.outside.takes,
  }));

  constructor(
    private readonly engine: LiveEngine,
    private readonly send: (message: EngineEvent) => void,
    /** Who looks at moving pictures, where that is not done here. */
    looking?: Looking,
    /** Counts what the page has asked for, where memory can be shared. */
    asked: Int32Array | null = null,
  ) {
    this.playback = new Playback(engine, SNAPSHOT_BYTES);
    this.baker = new Baker(engine, this.playback, send, () => {
      this.afterBake();
    });
    this.follower = new Follower(engine);
    this.truth = new Truth(this.playback, engine);
    this.compiler = new Compiler(send, looking, asked);
    this.reporter = new Reporter(engine, send);
  }

  setStock(files: StockFiles): void {
    this.compiler.take(files);
    this.pending ??= this.piece;
    this.wake();
  }

  async setBakes(files: readonly BakeFile[]): Promise<void> {
    await this.baker.open(files);
    this.pending ??= this.piece;
    this.wake();
  }

  bake(swarm: string, file: string): void {
    // What is stored goes by what the piece has.
    this.outside.plays.rest();
    this.pending ??= this.piece;
    this.baker.begin(swarm, file);
    this.wake();
  }

  stopBake(): void {
    void this.baker.stop(null);
  }

  /** Long work goes on, see Building. */
  reportProgress(what: string, part: number): void {
    this.compiler.reportProgress(what, part);
  }

  /** Leaves off building a change: the piece stays as it was. */
  stopBuilding(): void {
    if (!this.pending) return;
    this.pending = null;
    const message =
      'Building the change was stopped; the picture shows what was there before. Undo the change, or make it smaller.';
    this.send({ type: 'trouble', message });
  }

  /** The plan of the frame of the state: controls may have switched parts on and off. */
  private get shown(): Plan | undefined {
    return this.plan?.at(this.playback.frame);
  }

  /** Where the camera stands at the frame of the state. */
  private camera(): CameraPose {
    const { camera, frame } = this.shown!;
    return camera(secondIn(frame, this.engine.frame, 1));
  }

  /** The piece as it is by now, whether it is compiled or not. */
  private get latest(): Piece | null {
    return this.pending ?? this.piece;
  }

  census(swarm: string): Promise<Census> {
    return this.reporter.census(swarm, this.piece, this.shown, () => this.camera());
  }

  /** Counts of a medium's cells now; null where it is not running. */
  mediumCensus(id: string): Promise<MediumCensus | null> {
    return this.reporter.mediumCensus(id, this.shown);
  }

  follow(at: Spot | null): void {
    this.follower.stop();
    if (!at || !this.piece || !this.plan) return;
    void this.follower.pick(this.piece, this.camera(), at).then(() => {
      this.dirty = true;
      this.wake();
    });
  }

  /** Moves a signal by hand; null lets it go. */
  drive(signal: string, value: number | null): void {
    if (!this.piece) return;
    if (value === null) {
      const take = this.outside.handTakes.release(signal);
      if (take) this.send({ type: 'took', signal, take });
    } else if (this.outside.handTakes.drive(this.piece, signal, value)) this.pending ??= this.piece;
    this.wake();
  }

  /** Plays a control or a cue: while the piece plays from the next frame on, else from the one that is shown. */
  act(play: Play): void {
    const { piece, plan } = this;
    if (!piece || !plan) return;
    if (this.outside.plays.play(piece, play)) this.pending ??= piece;
    if (!this.playing) this.actNow(plan.frame.rate);
    this.wake();
  }

  /** Standing still: a piece that is run for a show has the frame behind it, and shows this one with what was played. */
  private actNow(rate: number): void {
    const frame = Math.max(0, this.playback.frame);
    const runs = this.until !== null;
    this.outside.plays.write(runs ? (frame + 1) / rate - JUST : frame / rate);
    if (!runs) return;
    this.playback.redo();
    this.target ??= frame;
  }

  letGo(control: string): void {
    this.outside.plays.letGo(control);
    this.wake();
  }

  /** Has a live input drive a part of the piece while it plays, from the next frame on. */
  record<L extends RecordedList>(list: L, part: string, from: Incoming[L]): void {
    this.outside.open(list, part, from, this.latest);
    this.wake();
  }

  stopRecording(list: RecordedList): void {
    this.outside.stop(this.latest, list);
    this.wake();
  }

  setPiece(piece: Piece): void {
    if (this.outside.settle(piece)) this.doubtful = true;
    this.pending = piece;
    this.wake();
  }

  play(playing: boolean): void {
    this.playing = playing;
    this.lateFrames = 0;
    if (!playing) this.outside.stop(this.latest);
    this.reporter.restart();
    this.due = performance.now();
    this.dirty = true;
    this.wake();
  }

  seek(frame: number): void {
    // A take has no gaps.
    this.outside.stop(this.latest);
    this.target = frame;
    this.glimpses = true;
    this.wake();
  }

  /** Runs a stretch of the piece for a show, be it open already or not. */
  run({ at, until, played }: Run): void {
    this.outside.plays.run(played);
    this.until = until;
    this.target = at;
    this.pending ??= this.piece;
    this.wake();
  }

  /** Goes on at a frame of what is run, with controls as they stand. */
  jump(frame: number): void {
    const { plan, piece } = this;
    if (!plan || !piece) return;
    const { rate } = plan.frame;
    const now = (this.playback.frame + 1) / rate;
    const carried = plan.score?.carried(now, frame / rate) ?? [];
    if (plan.score) this.playback.doubt();
    this.outside.plays.carry(piece, carried);
    this.send({ type: 'jumped', frame, played: carried });
    this.target = frame;
    this.wake();
  }

  setPace(speed: number): void {
    this.speed = speed;
    this.due = performance.now();
  }

  /** Milliseconds that a frame has while it plays. */
  private get frameTime(): number {
    return 1000 / (this.plan!.frame.rate * this.speed);
  }

  /** The last frame that is played. */
  private get last(): number {
    return Math.min(this.until ?? Infinity, this.plan!.frame.length) - 1;
  }

  preview(choice: PreviewChoice, room: number): void {
    this.size.choose(choice, room);
    this.dirty = true;
    this.wake();
  }

  private wake(): void {
    // A turn that is just ending may not have seen what changed.
    this.asked = true;
    if (this.running) return;
    this.running = true;
    void this.loop();
  }

  private async loop(): Promise<void> {
    while (this.asked) {
      this.asked = false;
      while (await this.turn()) await pause(this.playing ? this.due - performance.now() : 0);
    }
    this.running = false;
  }

  /** One turn of the loop; false when there is nothing left to do. */
  private async turn(): Promise<boolean> {
    try {
      if (this.pending) await this.compile(this.pending);
      if (!this.plan) return this.pending !== null;
      if (this.baker.busy) return await this.bakeOn();
      // Making a remembered past anew takes a while: until then what there is is shown.
      if (this.dirty && this.plan.finish.remembers) await this.show();
      if (this.target !== null) return await this.approach();
      if (this.playing) await this.playOn();
      else if (this.dirty) await this.show();
      else if (this.coarse) await this.refine();
    } catch (error) {
      await this.mend(error);
    }
    const wanted = this.dirty || this.coarse || this.pending !== null || this.target !== null;
    return this.playing || wanted;
  }

  /** The frame once more with all the lines there is room for, when nothing else is to be done. */
  private async refine(): Promise<void> {
    const { size } = this;
    const { lines } = size;
    size.lines = size.most;
    await this.show();
    size.lines = lines;
    this.coarse = false;
  }

  private async compile(piece: Piece): Promise<void> {
    await this.compiler.prepare(piece, SLICE, () => this.pending);
    // A newer one may have come meanwhile; then that one counts.
    if (this.pending !== piece) return;
    this.pending = null;
    const first = this.piece === null;
    const { bakes } = this.baker;
    const plan = this.compiler.plan(piece, { bakes, live: this.outside.takes });
    if (!plan) {
      // What was asked for meanwhile has not come in yet.
      this.pending = piece;
      return;
    }
    this.piece = piece;
    this.plan = plan;
    this.playback.setPlan(plan);
    if (this.doubtful) this.playback.doubt();
    this.doubtful = false;
    this.send({ type: 'notices', notices: plan.notices });
    this.dirty = true;
    if (first) this.target ??= 0;
    if (first) this.glimpses = true;
    // Standing still there is time to make the state right; for playing see playOn.
    else if (!this.playing && !this.playback.exact) this.target ??= this.playback.frame;
    this.truth.edited(this.playback.frame + 1 + plan.frame.preroll);
    const last = plan.frame.length - 1;
    if (this.target === null && this.playback.frame > last) this.target = last;
  }

  private async bakeOn(): Promise<boolean> {
    const simulate = (): Promise<void> => this.compile((this.pending = this.piece!));
    await this.baker.slice(SLICE, () => this.plan!, simulate);
    return true;
  }

  /** Shows the piece again, with what is stored now. */
  private afterBake(): void {
    this.pending ??= this.piece;
    this.target ??= 0;
    this.wake();
  }

  /** Steps towards the wanted frame for one slice of time. */
  private async approach(): Promise<boolean> {
    const target = Math.min(this.target!, this.plan!.frame.length - 1);
    const start = performance.now();
    let left = this.playback.approach(target);
    while (left > 0 && performance.now() - start < SLICE) {
      // A finish that remembers has to see every frame on the way, that of a snapshot too.
      if (this.plan!.finish.remembers && this.playback.frame >= -this.plan!.runIn)
        await this.show(left);
      await this.playback.ready();
      this.playback.advance();
      left -= 1;
    }
    if (left === 0) {
      this.target = null;
      this.glimpses = false;
      this.due = performance.now();
      await this.show();
    } else if (this.glimpses && performance.now() - this.lastGlimpse > GLIMPSE) {
      await this.show(left);
      this.lastGlimpse = performance.now();
    }
    return this.playing || this.coarse || this.target !== null || this.pending !== null;
  }

  /** Whether the picture keeps to the clock of a sound. */
  private get heard(): boolean {
    return !this.plan!.finish.remembers && this.piece!.sounds.some((s) => s.on);
  }

  /** Records what the next frame is driven by; false where the plan has to be made for it first. */
  private async recordNext(): Promise<boolean> {
    const { rate, length } = this.plan!.frame;
    const next = (): number => this.playback.frame + 1;
    const recorded = await this.outside.record({
      next,
      rate,
      forget: () => {
        this.playback.forgetAfter();
      },
      skip: async () => {
        if (this.plan!.finish.remembers || next() >= length - 1) return false;
        await this.playback.ready();
        this.playback.advance();
        return true;
      },
    });
    if (!recorded) this.pending ??= this.piece;
    // What comes in keeps the time.
    if (this.outside.leads) this.due = performance.now();
    return recorded;
  }

  /** Beside a sound, frames that are late are simulated and not drawn. */
  private async keepUp(step: number): Promise<void> {
    if (!this.heard || this.outside.driving) return;
    for (let late = 0; late < MOST_LATE && this.playback.frame < this.last - 1; late++) {
      if (performance.now() - this.due <= step / 2) return;
      await this.playback.ready();
      this.playback.advance();
      this.due += step;
    }
  }

  /** Whether what comes behind the last frame is the first, without anything being made anew. */
  private get goesRound(): boolean {
    const { until, playback, outside } = this;
    return until === null && playback.comesRound && !outside.driving && !this.heard;
  }

  private async playOn(): Promise<void> {
    // What the finish remembers comes from drawing every frame, and what is driven is only now known.
    const mends = !this.plan!.finish.remembers && !this.outside.driving;
    if (this.playback.frame >= this.last && !this.goesRound) {
      this.outside.stop(this.latest);
      this.glimpses = false;
      if (this.until === null) this.target = 0;
      else this.playing = false;
      return;
    }
    const step = this.frameTime;
    if (this.outside.driving && !(await this.recordNext())) return;
    if (mends) await this.truth.atOnce(AT_ONCE);
    await this.keepUp(step);
    const start = performance.now();
    await this.playback.ready();
    this.playback.advance();
    const moved = performance.now() - start;
    await this.show();
    const now = performance.now();
    const { motion: swarms = 0, media = 0 } = this.engine.times;
    const motion = Math.min(now - start, swarms + media);
    // Beside a sound there has to be time left, to come back to it.
    this.size.learn(now - start, motion, step * (this.heard ? SPARE : 1));
    this.truth.learn(Math.max(moved, motion));
    // Late frames are not made up for: the picture slows down rather than jumps. Beside a sound it keeps up.
    const behind = this.heard ? MOST_LATE * step : 0;
    if (now > this.due + step) this.lateFrames += 1;
    this.due = Math.max(now - behind, this.due + step);
    if (mends) await this.truth.beside(this.due - now, step);
  }

  private async show(settling = 0): Promise<void> {
    const { width, height } = this.piece!.frame;
    const { size } = this;
    const lines = Math.min(size.lines, height);
    const columns = Math.max(16, Math.round((width / height) * lines));
    this.dirty = false;
    const free = size.auto && !this.playing && settling === 0;
    // A finish that remembers would begin anew at another size.
    this.coarse = free && size.lines < size.most && !this.plan!.finish.remembers;
    await this.playback.ready();
    // What moves is drawn sharp: several moments a frame would cost as many times the time.
    await this.engine.show(columns, lines, this.playing ? 1 : Infinity);
    if (this.follower.on) {
      this.send({
        type: 'followed',
        report: await this.follower.report(this.piece!, this.camera()),
      });
    }
    this.report(columns, lines, settling);
  }

  private report(width: number, height: number, settling: number): void {
    const { playing, playback, lateFrames } = this;
    const step = this.truth.stepTime;
    const late = playing && this.heard && step > this.frameTime ? step : 0;
    const exact = playback.exact && this.engine.remembers;
    const { frame } = playback;
    const standing = { frame, playing, width, height, settling, exact, late, lateFrames };
    this.reporter.frame(standing, this.piece!, this.plan!);
  }

  /** After a failed thread, a lost device or full memory: start anew and come back to the frame. */
  private async mend(error: unknown): Promise<void> {
    const message = error instanceof Error ? error.message : String(error);
    // What would only fail again.
    if (error instanceof MemoryFull || error instanceof StockError) {
      this.playing = false;
      this.target = null;
      this.dirty = false;
      this.send({ type: 'trouble', message });
      return;
    }
    const frame = this.target ?? this.playback.frame;
    await this.engine.recover();
    this.playback.clear();
    this.playback.restart();
    this.target = Math.max(0, frame);
    this.send({
      type: 'trouble',
      message: `${message} It was started again, and the frame resumed.`,
    });
  }
}
