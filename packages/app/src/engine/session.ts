import { StockError, type StockFiles } from '@vast-swarm/core/stock';
import { MemoryFull } from '@vast-swarm/cpu';
import { Playback, type Census, type LiveEngine, type MediumCensus } from '@vast-swarm/core/play';
import { secondIn, type Plan } from '@vast-swarm/core/plan';
import type { CameraPose, RecordedList } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { Baker } from './baker';
import { Compiler } from './compiler';
import { Hearing } from './hearing';
import type { Play } from './plays';
import type { Incoming } from './recorders';
import type { Looking } from './looking';
import { Outside } from './outside';
import type { BakeFile, EngineEvent, PreviewChoice, Run, Spot } from './messages';
import { Pace } from './pace';
import { Picture } from './picture';
import { Reporter } from './reporter';
import { Seeking } from './seeking';
import { Truth } from './truth';
import { Turns } from './turns';

const SNAPSHOT_BYTES = 384 * 2 ** 20;
/** Longest stretch of simulating without a look at the messages, in milliseconds. */
const SLICE = 24;
/** So many frames the picture may be behind a sound; beyond, it slows down. */
const MOST_LATE = 8;

/** Seconds: what comes just before a frame's end is seen in it. */
const JUST = 1e-5;

/** The part of a frame's time that a picture may take beside a sound. */
const SPARE = 0.7;

/** Runs the open piece: plays, seeks, redraws, and keeps the preview as large as time allows. */
export class Session {
  private readonly playback: Playback;
  /** The piece as it was compiled last. */
  private piece: Piece | null = null;
  private plan: Plan | null = null;
  /** A piece that is still to be compiled. */
  private pending: Piece | null = null;
  private playing = false;
  /** The frame behind the last of what is run for a show. */
  private until: number | null = null;
  /** Whether acts were taken back that the state still has. */
  private doubtful = false;
  private readonly pace = new Pace();
  private readonly turns = new Turns(
    () => this.turn(),
    () => (this.playing ? this.pace.left : 0),
  );
  private readonly seeking: Seeking;
  private readonly picture: Picture;
  private readonly baker: Baker;
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
    this.seeking = new Seeking(this.playback, (left) => this.show(left));
    this.picture = new Picture(engine, this.playback, send);
    this.truth = new Truth(this.playback, engine);
    this.compiler = new Compiler(send, looking, asked);
    this.reporter = new Reporter(engine, send);
  }

  setStock(files: StockFiles): void {
    this.compiler.take(files);
    this.pending ??= this.piece;
    this.turns.wake();
  }

  async setBakes(files: readonly BakeFile[]): Promise<void> {
    await this.baker.open(files);
    this.pending ??= this.piece;
    this.turns.wake();
  }

  bake(swarm: string, file: string): void {
    // What is stored goes by what the piece has.
    this.outside.plays.rest();
    this.pending ??= this.piece;
    this.baker.begin(swarm, file);
    this.turns.wake();
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
    if (!this.piece) return;
    const from = { piece: this.piece, camera: () => this.camera() };
    void this.picture.follow(at, from).then(() => {
      this.turns.wake();
    });
  }

  /** Moves a signal by hand; null lets it go. */
  drive(signal: string, value: number | null): void {
    if (!this.piece) return;
    if (value === null) {
      const take = this.outside.handTakes.release(signal);
      if (take) this.send({ type: 'took', signal, take });
    } else if (this.outside.handTakes.drive(this.piece, signal, value)) this.pending ??= this.piece;
    this.turns.wake();
  }

  /** Plays a control or a cue: while the piece plays from the next frame on, else from the one that is shown. */
  act(play: Play): void {
    const { piece, plan } = this;
    if (!piece || !plan) return;
    if (this.outside.plays.play(piece, play)) this.pending ??= piece;
    if (!this.playing) this.actNow(plan.frame.rate);
    this.turns.wake();
  }

  /** Standing still: a piece that is run for a show has the frame behind it, and shows this one with what was played. */
  private actNow(rate: number): void {
    const frame = Math.max(0, this.playback.frame);
    const runs = this.until !== null;
    this.outside.plays.write(runs ? (frame + 1) / rate - JUST : frame / rate);
    if (!runs) return;
    this.playback.redo();
    this.seeking.otherwiseTo(frame);
  }

  letGo(control: string): void {
    this.outside.plays.letGo(control);
    this.turns.wake();
  }

  /** Has a live input drive a part of the piece while it plays, from the next frame on. */
  record<L extends RecordedList>(list: L, part: string, from: Incoming[L]): void {
    this.outside.open(list, part, from, this.latest);
    this.turns.wake();
  }

  stopRecording(list: RecordedList): void {
    this.outside.stop(this.latest, list);
    this.turns.wake();
  }

  setPiece(piece: Piece): void {
    if (this.outside.settle(piece)) this.doubtful = true;
    this.pending = piece;
    this.turns.wake();
  }

  play(playing: boolean): void {
    this.playing = playing;
    if (!playing) this.outside.stop(this.latest);
    this.reporter.restart();
    this.pace.begin();
    this.picture.dirty = true;
    this.turns.wake();
  }

  seek(frame: number): void {
    // A take has no gaps.
    this.outside.stop(this.latest);
    this.seeking.to(frame, true);
    this.turns.wake();
  }

  /** Runs a stretch of the piece for a show, be it open already or not. */
  run({ at, until, played }: Run): void {
    this.outside.plays.run(played);
    this.until = until;
    this.seeking.to(at);
    this.pending ??= this.piece;
    this.turns.wake();
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
    this.seeking.to(frame);
    this.turns.wake();
  }

  setPace(speed: number): void {
    this.pace.setSpeed(speed);
  }

  /** Milliseconds that a frame has while it plays. */
  private get frameTime(): number {
    return this.pace.step(this.plan!.frame.rate);
  }

  /** The last frame that is played. */
  private get last(): number {
    return Math.min(this.until ?? Infinity, this.plan!.frame.length) - 1;
  }

  preview(choice: PreviewChoice, room: number): void {
    this.picture.choose(choice, room);
    this.turns.wake();
  }

  /** One turn of the loop; false when there is nothing left to do. */
  private async turn(): Promise<boolean> {
    try {
      if (this.pending) await this.compile(this.pending);
      if (!this.plan) return this.pending !== null;
      if (this.baker.busy) return await this.bakeOn();
      // Making a remembered past anew takes a while: until then what there is is shown.
      if (this.picture.dirty && this.plan.finish.remembers) await this.show();
      if (this.seeking.on) await this.approach(this.plan);
      else if (this.playing) await this.playOn();
      else if (this.picture.dirty) await this.show();
      else if (this.picture.coarse) await this.picture.refine(() => this.show());
    } catch (error) {
      await this.mend(error);
    }
    const { dirty, coarse } = this.picture;
    return this.playing || dirty || coarse || this.pending !== null || this.seeking.on;
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
    this.picture.dirty = true;
    if (first) {
      this.seeking.otherwiseTo(0);
      this.seeking.glimpse(true);
    }
    // Standing still there is time to make the state right; for playing see playOn.
    else if (!this.playing && !this.playback.exact) this.seeking.otherwiseTo(this.playback.frame);
    this.truth.edited(this.playback.frame + 1 + plan.frame.preroll);
    const last = plan.frame.length - 1;
    if (this.playback.frame > last) this.seeking.otherwiseTo(last);
  }

  private async bakeOn(): Promise<boolean> {
    const simulate = (): Promise<void> => this.compile((this.pending = this.piece!));
    await this.baker.slice(SLICE, () => this.plan!, simulate);
    return true;
  }

  /** Shows the piece again, with what is stored now. */
  private afterBake(): void {
    this.pending ??= this.piece;
    this.seeking.otherwiseTo(0);
    this.turns.wake();
  }

  /** Comes a slice of time nearer to the frame that is sought. */
  private async approach(plan: Plan): Promise<void> {
    if (!(await this.seeking.slice(plan, SLICE))) return;
    this.pace.restart();
    await this.show();
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
    if (this.outside.leads) this.pace.restart();
    return recorded;
  }

  /** Beside a sound, frames that are late are simulated and not drawn. */
  private async keepUp(step: number): Promise<void> {
    if (!this.heard || this.outside.driving) return;
    for (let late = 0; late < MOST_LATE && this.playback.frame < this.last - 1; late++) {
      if (this.pace.left >= -step / 2) return;
      await this.playback.ready();
      this.playback.advance();
      this.pace.skip(step);
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
      if (this.until === null) this.seeking.to(0, false);
      else this.playing = false;
      return;
    }
    const step = this.frameTime;
    if (this.outside.driving && !(await this.recordNext())) return;
    if (mends) await this.truth.atOnce();
    await this.keepUp(step);
    const start = performance.now();
    await this.playback.ready();
    this.playback.advance();
    const moved = performance.now() - start;
    await this.show();
    const took = performance.now() - start;
    const { motion: swarms = 0, media = 0 } = this.engine.times;
    const motion = Math.min(took, swarms + media);
    // Beside a sound there has to be time left, to come back to it.
    this.picture.learn(took, motion, step * (this.heard ? SPARE : 1));
    this.truth.learn(Math.max(moved, motion));
    this.pace.shown(step, this.heard ? MOST_LATE * step : 0);
    if (mends) await this.truth.beside(this.pace.left, step);
  }

  private async show(settling = 0): Promise<void> {
    const { piece, plan, playing } = this;
    const camera = (): CameraPose => this.camera();
    const shown = { piece: piece!, plan: plan!, camera, playing, settling };
    const { width, height } = await this.picture.show(shown);
    this.report(width, height, settling);
  }

  private report(width: number, height: number, settling: number): void {
    const { playing, playback } = this;
    const { late: lateFrames } = this.pace;
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
      this.seeking.stop();
      this.picture.dirty = false;
      this.send({ type: 'trouble', message });
      return;
    }
    const frame = this.seeking.frame ?? this.playback.frame;
    await this.engine.recover();
    this.playback.clear();
    this.playback.restart();
    this.seeking.to(Math.max(0, frame));
    this.send({
      type: 'trouble',
      message: `${message} It was started again, and the frame resumed.`,
    });
  }
}
