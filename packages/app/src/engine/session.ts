import {
  buildField,
  census,
  compilePiece,
  fieldsWanted,
  keepField,
  PlanCache,
  Playback,
  type CameraPose,
  type Piece,
  type Plan,
  type StockFiles,
} from '@vast-swarm/core';
import { BakeWriter, OpenBake, removeBakeFile } from './bakes';
import { Follower } from './follower';
import type { LiveEngine } from './live';
import {
  LINES,
  type BakeFile,
  type FromEngine,
  type PreviewChoice,
  type ToEngine,
} from './messages';

const SNAPSHOT_BYTES = 384 * 2 ** 20;
/** Longest stretch of simulating without a look at the messages, in milliseconds. */
const SLICE = 24;
/** While a far frame is approached, a frame on the way is shown this often. */
const GLIMPSE = 120;
/** Frames that are looked at before the preview is changed. */
const TRIAL = 30;
const WARMING = 45;
/** A frame may take this many times its time before the preview gets smaller. */
const LATE = 1.35;

/** Runs the open piece: plays, seeks, redraws, and keeps the preview as large as time allows. */
export class Session {
  private readonly playback: Playback;
  private readonly cache = new PlanCache();
  private piece: Piece | null = null;
  private pending: Piece | null = null;
  private plan: Plan | null = null;
  private playing = false;
  private target: number | null = null;
  private glimpses = false;
  private dirty = false;
  /** Standing still the frame is drawn once more, as large as there is room for. */
  private coarse = false;
  private running = false;
  private asked = false;
  private choice: PreviewChoice = 'auto';
  private room = 540;
  private lines = 540;
  /** Frames still to pass before frames count: compilers take a while to do their best. */
  private warming = WARMING;
  private spent: { motion: number; pixels: number }[] = [];
  private shown: number[] = [];
  private lastGlimpse = 0;
  private due = 0;
  private files: StockFiles = new Map();
  private bakes = new Map<string, OpenBake>();
  private baking: {
    swarm: string;
    file: string;
    writer: BakeWriter | null;
    /** The bake that goes when the new one is whole. */
    before: string | null;
  } | null = null;
  private readonly follower: Follower;

  constructor(
    private readonly engine: LiveEngine,
    private readonly send: (message: FromEngine) => void,
  ) {
    this.playback = new Playback(engine, SNAPSHOT_BYTES);
    this.follower = new Follower(engine);
  }

  setStock(files: StockFiles): void {
    this.files = files;
    this.pending ??= this.piece;
    this.wake();
  }

  async setBakes(files: readonly BakeFile[]): Promise<void> {
    const wanted = new Set(files.map((f) => f.file));
    for (const [swarm, bake] of this.bakes) {
      if (wanted.has(bake.name)) continue;
      bake.close();
      this.bakes.delete(swarm);
      await removeBakeFile(bake.name);
    }
    for (const file of files) {
      if (this.bakes.get(file.swarm)?.name === file.file) continue;
      const bake = await OpenBake.open(file);
      if (bake) this.bakes.set(file.swarm, bake);
    }
    this.pending ??= this.piece;
    this.wake();
  }

  bake(swarm: string, file: string): void {
    if (this.baking) return;
    const before = this.bakes.get(swarm)?.name ?? null;
    this.baking = { swarm, file, writer: null, before };
    this.wake();
  }

  stopBake(): void {
    void this.endBake(null);
  }

  /** Where the camera stands at the frame of the state. */
  private camera(): CameraPose {
    const { camera, frame } = this.plan!;
    return camera((this.engine.frame + 1) / frame.rate);
  }

  async census(swarm: string): Promise<void> {
    const plan = this.plan?.swarms.find((s) => s.id === swarm);
    if (!this.piece || !plan) {
      const none = { born: 0, alive: 0, inFrame: 0, largeEnough: 0, brightEnough: 0 };
      this.send({ type: 'census', swarm, census: none });
      return;
    }
    const particles = await this.engine.particles(swarm);
    const found = census(this.engine.born(swarm), particles, this.camera(), this.piece.frame);
    this.send({ type: 'census', swarm, census: found });
  }

  follow(at: (ToEngine & { type: 'follow' })['at']): void {
    this.follower.stop();
    if (!at || !this.piece || !this.plan) return;
    void this.follower.pick(this.piece, this.camera(), at).then(() => {
      this.dirty = true;
      this.wake();
    });
  }

  setPiece(piece: Piece): void {
    this.pending = piece;
    this.wake();
  }

  play(playing: boolean): void {
    this.playing = playing;
    this.shown = [];
    this.due = performance.now();
    this.dirty = true;
    this.wake();
  }

  seek(frame: number): void {
    this.target = frame;
    this.glimpses = true;
    this.wake();
  }

  preview(choice: PreviewChoice, room: number): void {
    this.choice = choice;
    this.room = room;
    this.fit();
    this.dirty = true;
    this.wake();
  }

  /** Lines to draw: what was chosen, or what there is room and time for. */
  private fit(): void {
    if (this.choice !== 'auto') this.lines = this.choice;
    else {
      this.lines = Math.min(this.lines, this.most);
    }
    this.spent = [];
  }

  /** The most lines that the picture's place on the screen has room for. */
  private get most(): number {
    return LINES.find((l) => l <= this.room * 1.15) ?? LINES.at(-1)!;
  }

  private wake(): void {
    // A turn that is just ending may not have seen what changed.
    this.asked = true;
    if (this.running) return;
    this.running = true;
    void this.run();
  }

  private async run(): Promise<void> {
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
      if (!this.plan) return false;
      if (this.baking) return await this.bakeOn();
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
    const { lines } = this;
    this.lines = this.most;
    await this.show();
    this.lines = lines;
    this.coarse = false;
  }

  /** Builds the distance fields a piece wants, a slice at a time, so that messages come in. */
  private async buildFields(piece: Piece): Promise<void> {
    for (const { name, mesh, detail } of fieldsWanted(piece, this.files)) {
      const work = buildField(mesh, detail);
      let until = performance.now() + SLICE;
      for (;;) {
        const { done, value } = work.next();
        if (done) {
          keepField(mesh, detail, value);
          break;
        }
        if (performance.now() < until) continue;
        this.send({ type: 'building', name, part: value });
        await pause(0);
        until = performance.now() + SLICE;
      }
      this.send({ type: 'building', name, part: 1 });
    }
  }

  private async compile(piece: Piece): Promise<void> {
    await this.buildFields(piece);
    // A newer one may have come meanwhile; then that one counts.
    if (this.pending !== piece) return;
    this.pending = null;
    const first = this.piece === null;
    const { cache, files, bakes } = this;
    const plan = compilePiece(piece, { cache, files, bakes });
    this.piece = piece;
    this.plan = plan;
    this.playback.setPlan(plan);
    this.send({ type: 'notices', notices: plan.notices });
    this.dirty = true;
    if (first) this.target ??= 0;
    if (first) this.glimpses = true;
    // Standing still there is time to make the state right; playing goes on with what it has.
    else if (!this.playing && !this.playback.exact) this.target ??= this.playback.frame;
    const last = plan.frame.length - 1;
    if (this.target === null && this.playback.frame > last) this.target = last;
  }

  /** A slice of a bake: from before the first frame to the last, whatever is shown meanwhile. */
  private async bakeOn(): Promise<boolean> {
    const baking = this.baking!;
    const { swarm, file } = baking;
    const { length } = this.plan!.frame;
    try {
      if (!baking.writer) {
        this.bakes.get(swarm)?.close();
        this.bakes.delete(swarm);
        baking.writer = await BakeWriter.create(file);
        await this.compile((this.pending = this.piece!));
        this.playback.restart();
      }
      const start = performance.now();
      while (this.baking === baking && performance.now() - start < SLICE) {
        this.playback.advance();
        const { frame } = this.playback;
        if (frame < 0) continue;
        const arrays = await this.engine.stateOf(swarm);
        baking.writer.add(this.engine.born(swarm), arrays);
        if (frame >= length - 1) {
          await this.finishBake(baking.writer);
          break;
        }
      }
      this.send({
        type: 'baking',
        swarm,
        done: Math.max(0, this.playback.frame + 1),
        total: length,
      });
    } catch (error) {
      await this.endBake(error instanceof Error ? error.message : String(error));
    }
    return true;
  }

  private async finishBake(writer: BakeWriter): Promise<void> {
    const { swarm, file, before } = this.baking!;
    const plan = this.plan!.swarms.find((s) => s.id === swarm)!;
    const { bytes, born } = writer;
    writer.close();
    this.baking = null;
    const { capacity, state, motionKey } = plan;
    const last = this.plan!.frame.length - 1;
    const bake: BakeFile = { swarm, file, first: 0, last, capacity, state, born };
    const opened = await OpenBake.open(bake);
    if (opened) this.bakes.set(swarm, opened);
    if (before !== null) await removeBakeFile(before);
    this.pending ??= this.piece;
    this.target = 0;
    this.send({ type: 'baked', swarm, bake, bytes, key: motionKey });
  }

  /** Gives up a bake; what was written goes. */
  private async endBake(message: string | null): Promise<void> {
    const { baking } = this;
    if (!baking) return;
    this.baking = null;
    baking.writer?.close();
    await removeBakeFile(baking.file);
    this.send({ type: 'bakeStopped', swarm: baking.swarm, message });
    this.target ??= 0;
    this.wake();
  }

  /** Steps towards the wanted frame for one slice of time. */
  private async approach(): Promise<boolean> {
    const target = Math.min(this.target!, this.plan!.frame.length - 1);
    const start = performance.now();
    let left = this.playback.approach(target);
    while (left > 0 && performance.now() - start < SLICE) {
      this.playback.advance();
      left -= 1;
      // A finish that remembers has to see every frame on the way.
      if (left > 0 && this.plan!.finish.remembers && this.playback.frame >= 0)
        await this.show(left);
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

  private async playOn(): Promise<void> {
    const { rate, length } = this.plan!.frame;
    const start = performance.now();
    if (this.playback.frame >= length - 1) {
      this.target = 0;
      this.glimpses = false;
      return;
    }
    this.playback.advance();
    await this.show();
    const now = performance.now();
    this.adapt(now - start, 1000 / rate);
    // Late frames are not made up for: the picture slows down rather than jumps.
    this.due = Math.max(now, this.due + 1000 / rate);
  }

  /**
   * Every second or so: the most lines that fit into a frame's time, by what motion costs (whatever
   * the lines) and what the pixels cost. Down when frames are clearly late, up only when all would fit.
   */
  private adapt(spent: number, budget: number): void {
    if (this.choice !== 'auto' || this.warming-- > 0) return;
    const motion = Math.min(spent, this.engine.times.motion ?? 0);
    this.spent.push({ motion, pixels: spent - motion });
    if (this.spent.length < TRIAL) return;
    // The middle frame: a hiccup of the machine is no reason to change.
    const middle = (get: (s: { motion: number; pixels: number }) => number): number =>
      this.spent.map(get).sort((a, b) => a - b)[TRIAL >> 1]!;
    const [fixed, perFrame] = [middle((s) => s.motion), middle((s) => s.pixels)];
    this.spent = [];
    // Part of drawing goes by particles and not by pixels.
    const cost = (lines: number): number =>
      fixed + perFrame * (0.4 + 0.6 * (lines / this.lines) ** 2);
    const late = cost(this.lines) > budget * LATE;
    const fits = LINES.filter((l) => l <= this.most && (late ? l < this.lines : l > this.lines));
    const best = fits.find((l) => cost(l) <= budget) ?? (late ? fits.at(-1) : undefined);
    if (best) this.lines = best;
  }

  private async show(settling = 0): Promise<void> {
    const { width, height } = this.piece!.frame;
    const lines = Math.min(this.lines, height);
    const columns = Math.max(16, Math.round((width / height) * lines));
    this.dirty = false;
    const free = this.choice === 'auto' && !this.playing && settling === 0;
    // A finish that remembers would begin anew at another size.
    this.coarse = free && this.lines < this.most && !this.plan!.finish.remembers;
    // Moving pictures are drawn sharp: several moments a frame would cost as many times the time.
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
    const now = performance.now();
    const { engine, playing } = this;
    if (playing) this.shown = [...this.shown.filter((t) => now - t < 2000), now];
    const [first] = this.shown;
    const span = first === undefined ? 0 : now - first;
    const fps = span > 200 ? ((this.shown.length - 1) * 1000) / span : 0;
    const aliveBy = engine.aliveBy();
    const alive = Object.values(aliveBy).reduce((a, b) => a + b, 0);
    const { kind, threads, times, memoryBytes } = engine;
    this.send({
      type: 'frame',
      report: {
        ...{ frame: this.playback.frame, playing, alive, aliveBy, fps, threads, width, height },
        ...{
          settling,
          exact: this.playback.exact && engine.remembers,
          engine: kind,
          times: { ...times },
          memoryBytes,
        },
      },
    });
  }

  /** After a failed thread, a lost device or full memory: start anew and come back to the frame. */
  private async mend(error: unknown): Promise<void> {
    const message = error instanceof Error ? error.message : String(error);
    const full = error instanceof Error && error.name === 'MemoryFull';
    if (full) {
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

/** Lets messages in; waits when there is time to wait. */
function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => {
    if (milliseconds > 2) setTimeout(resolve, milliseconds - 1);
    else {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => {
        port1.close();
        resolve();
      };
      port2.postMessage(0);
    }
  });
}
