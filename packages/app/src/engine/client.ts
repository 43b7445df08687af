import { transfer } from 'comlink';
import { sentFiles } from '@vast-swarm/core/stock';
import type { RecordedList } from '@vast-swarm/core/kinds';
import type { Census, MediumCensus } from '@vast-swarm/core/play';
import type { Piece, Played } from '@vast-swarm/core/piece';
import type { StockData } from '@vast-swarm/core/stock';
import type { Take } from '@vast-swarm/core/feeds';
import { openWorker, WorkerDied, type OpenWorker } from '../workers/openWorker';
import type {
  BakeFile,
  EngineChoice,
  EngineEvent,
  EngineWorker,
  FollowReport,
  FrameReport,
  PreviewChoice,
  Run,
  Spot,
} from './messages';
import type { Play } from './plays';
import type { Incoming, Taken } from './recorders';

type Listener = () => void;

export interface EngineEvents {
  notices: (notices: { part: string; message: string }[]) => void;
  trouble: (message: string) => void;
  building: (name: string, part: number) => void;
  /** A signal was moved by hand, and let go. */
  took: (signal: string, take: Take) => void;
  /** About bakes; see messages.ts. */
  baking: (message: EngineEvent & { type: 'baking' | 'baked' | 'bakeStopped' }) => void;
  /** A take of a live input is whole. */
  taken: (taken: Taken) => void;
  /** All that was played of controls and cues, as soon as nothing is held. */
  played: (played: Played[]) => void;
  /** Acts for a show that were played just now. */
  recorded: (played: Played[]) => void;
  /** A run for a show goes on elsewhere, as if so much had been played beside what the piece has. */
  jumped: (played: Played[]) => void;
  /** The worker died: a new canvas is needed, then `attach` again. */
  died: () => void;
}

/** The interface's end of the engine's worker. Holds what it takes to start it again. */
export class EngineClient {
  report: FrameReport | null = null;
  /** The particle that is followed; told with each frame. */
  followed: FollowReport | null = null;
  private files: ReadonlyMap<string, StockData> = new Map();
  private bakes: readonly BakeFile[] = [];
  private worker: OpenWorker<EngineWorker> | null = null;
  private arrived: (worker: OpenWorker<EngineWorker>) => void = () => undefined;
  /** The worker, as soon as it is there; another one where it has died. */
  private attached = this.nextWorker();
  /** Files of the stock that are on their way to it. */
  stocking: Promise<unknown> = Promise.resolve();
  private readonly listeners = new Set<Listener>();
  private piece: Piece | null = null;
  private playing = false;
  private target: number | null = null;
  private preview: [choice: PreviewChoice, room: number] = ['auto', 540];
  /** Times that it died without having shown the wanted frame in between. */
  private deaths = 0;
  /** Whether it was not started again, since it keeps dying. */
  private gaveUp = false;
  /** Grows with all that makes what is being built needless; see EngineWorker. */
  private asked: Int32Array | null = null;

  constructor(
    private readonly choice: EngineChoice,
    /** Events without a listener are dropped. */
    private readonly events: Partial<EngineEvents>,
  ) {}

  private nextWorker(): Promise<OpenWorker<EngineWorker>> {
    return new Promise((arrived) => (this.arrived = arrived));
  }

  /** Starts a worker that draws on a fresh canvas in this element, where the last one was. */
  attach(holder: HTMLElement): void {
    const canvas = document.createElement('canvas');
    Object.assign(canvas.style, { width: '100%', height: '100%', display: 'block' });
    canvas.setAttribute('aria-hidden', 'true');
    holder.replaceChildren(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const made = new Worker(new URL('./engineWorker.ts', import.meta.url), { type: 'module' });
    this.worker?.close();
    const worker = openWorker<EngineWorker>(made, (message) => {
      if (worker === this.worker) this.buried(message);
    });
    this.worker = worker;
    const tell = worker.called((event: EngineEvent) => {
      if (worker === this.worker) this.receive(event);
    });
    if (crossOriginIsolated) this.asked ??= new Int32Array(new SharedArrayBuffer(4));
    const canvasOf = transfer(offscreen, [offscreen]);
    const started = worker.call.start(canvasOf, this.choice, tell, this.asked);
    started.catch((error: unknown) => {
      if (worker === this.worker) this.buried(error instanceof Error ? error.message : '');
    });
    this.tellAll();
    this.arrived(worker);
  }

  /** Tells a fresh worker all that it has to know. */
  private tellAll(): void {
    this.send((to) => to.preview(...this.preview));
    if (this.files.size > 0) this.send((to) => to.setStock(this.files));
    if (this.bakes.length > 0) this.send((to) => to.setBakes(this.bakes));
    const { piece, report } = this;
    if (piece) this.send((to) => to.setPiece(piece));
    if (report) this.send((to) => to.seek(Math.max(0, report.frame)));
    if (this.playing) this.send((to) => to.play(true));
  }

  /** The worker has died. */
  private buried(message: string): void {
    this.deaths += 1;
    this.attached = this.nextWorker();
    const often = this.deaths > 3;
    this.gaveUp = often;
    this.events.trouble?.(
      `The engine stopped (${message}). ${often ? 'It keeps stopping; undo the last change.' : 'It was started again.'}`,
    );
    if (!often) this.events.died?.();
  }

  private receive(message: EngineEvent): void {
    switch (message.type) {
      case 'frame':
        this.report = message.report;
        if (message.report.settling === 0) {
          if (message.report.frame === this.target) this.target = null;
          this.deaths = 0;
        }
        for (const listener of this.listeners) listener();
        return;
      case 'notices':
        this.events.notices?.(message.notices);
        return;
      case 'trouble':
        this.events.trouble?.(message.message);
        return;
      case 'followed':
        this.followed = message.report;
        return;
      case 'took':
        this.events.took?.(message.signal, message.take);
        return;
      case 'taken':
        this.events.taken?.(message.taken);
        return;
      case 'played':
        this.events.played?.(message.played);
        return;
      case 'recorded':
        this.events.recorded?.(message.played);
        return;
      case 'jumped':
        this.events.jumped?.(message.played);
        return;
      case 'building':
        this.events.building?.(message.name, message.part);
        return;
      case 'baking':
      case 'baked':
      case 'bakeStopped':
        this.events.baking?.(message);
        return;
    }
  }

  /** Asks for something whose end nobody waits for. What goes wrong in it is told. */
  private send(ask: (to: OpenWorker<EngineWorker>['call']) => Promise<void>): void {
    if (!this.worker) return;
    ask(this.worker.call).catch((error: unknown) => {
      this.events.trouble?.(error instanceof Error ? error.message : String(error));
    });
  }

  setPiece(piece: Piece): void {
    this.piece = piece;
    this.supersede();
    if (this.gaveUp) {
      this.gaveUp = false;
      this.events.died?.();
    } else this.send((to) => to.setPiece(piece));
  }

  /** Makes what is being built needless. */
  private supersede(): void {
    if (this.asked) Atomics.add(this.asked, 0, 1);
  }

  /** Leaves off making a change ready that takes long; the picture stays as it was. */
  stopBuilding(): void {
    this.send((to) => to.stopBuilding());
    this.supersede();
  }

  /** Sets the stock's things from files; before or after the piece itself. */
  setStock(files: ReadonlyMap<string, StockData>): void {
    const sent = sentFiles(files);
    this.files = sent;
    this.send((to) => to.setStock(sent));
  }

  /** Stored motion that is to be played instead of simulated. */
  setBakes(bakes: readonly BakeFile[]): void {
    this.bakes = bakes;
    this.send((to) => to.setBakes(bakes));
  }

  bake(swarm: string, file: string): void {
    this.send((to) => to.bake(swarm, file));
  }

  stopBake(): void {
    this.send((to) => to.stopBake());
  }

  /** The worker, with all files of the stock that are on their way. */
  private async stocked(): Promise<OpenWorker<EngineWorker>> {
    const worker = await this.attached;
    await this.stocking;
    return worker;
  }

  /** Asks about sounds and signals of the piece, see Hearing; once more where the worker dies meanwhile. */
  async ask<R>(question: (to: OpenWorker<EngineWorker>['call']) => Promise<R>): Promise<R> {
    const worker = await this.stocked();
    return worker.ask(question(worker.call)).catch(async (error: unknown) => {
      if (!(error instanceof WorkerDied)) throw error;
      const next = await this.stocked();
      return next.ask(question(next.call));
    });
  }

  /** How many particles of a swarm are seen now. */
  census(swarm: string): Promise<Census> {
    const { worker } = this;
    if (!worker) return Promise.reject(new Error('The engine is not there.'));
    return worker.ask(worker.call.census(swarm));
  }

  /** Counts of a medium's cells now; null where it is not running. */
  mediumCensus(medium: string): Promise<MediumCensus | null> {
    const { worker } = this;
    if (!worker) return Promise.reject(new Error('The engine is not there.'));
    return worker.ask(worker.call.mediumCensus(medium));
  }

  /** Follows the particle nearest to a place in the picture, of a swarm or of any; null: none. */
  follow(at: Spot | null): void {
    if (!at) this.followed = null;
    this.send((to) => to.follow(at));
  }

  /** Moves a signal by hand while the piece plays; null lets it go. */
  drive(signal: string, value: number | null): void {
    this.send((to) => to.drive(signal, value));
  }

  /** Sets a control of the piece, or fires a cue; a control that is held goes on being recorded until it is let go. */
  act(play: Play): void {
    this.send((to) => to.act(play));
  }

  letGo(control: string): void {
    this.send((to) => to.letGo(control));
  }

  /** Has a live input drive a part of the piece while it plays, and records it. */
  record<L extends RecordedList>(
    list: L,
    part: string,
    from: Incoming[L] & { port: MessagePort },
  ): void {
    this.send((to) => to.record(list, part, transfer(from, [from.port])));
  }

  stopRecording(list: RecordedList): void {
    this.send((to) => to.stopRecording(list));
  }

  play(playing: boolean): void {
    this.playing = playing;
    this.send((to) => to.play(playing));
  }

  /** Where the artist is in time: where the last seek goes, else the frame that is shown. */
  get place(): number {
    return this.target ?? Math.max(0, this.report?.frame ?? 0);
  }

  seek(frame: number): void {
    this.target = frame;
    this.send((to) => to.seek(frame));
  }

  /** Runs a stretch of the piece for a show; whoever does it tells a fresh worker of it. */
  run(run: Run): void {
    this.send((to) => to.run(run));
  }

  jump(frame: number): void {
    this.send((to) => to.jump(frame));
  }

  pace(speed: number): void {
    this.send((to) => to.pace(speed));
  }

  setPreview(choice: PreviewChoice, room: number): void {
    this.preview = [choice, room];
    this.send((to) => to.preview(choice, room));
  }

  /** A small picture of what is shown; null while there is none. */
  async thumb(): Promise<Blob | null> {
    const { worker } = this;
    return worker ? worker.ask(worker.call.thumb()) : null;
  }

  subscribe = (listener: Listener): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  close(): void {
    this.worker?.close();
    this.worker = null;
  }
}
