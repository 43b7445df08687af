import type { Census, Piece, StockData, Take } from '@vast-swarm/core';
import type {
  BakeFile,
  EngineChoice,
  FollowReport,
  FrameReport,
  FromEngine,
  PreviewChoice,
  ToEngine,
} from './messages';

type Listener = () => void;

export interface EngineEvents {
  notices: (notices: { part: string; message: string }[]) => void;
  trouble: (message: string) => void;
  thumb: (blob: Blob) => void;
  building: (name: string, part: number) => void;
  /** A signal was moved by hand, and let go. */
  took: (signal: string, take: Take) => void;
  /** About bakes; see messages.ts. */
  baking: (message: FromEngine & { type: 'baking' | 'baked' | 'bakeStopped' }) => void;
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
  private readonly asked = new Map<string, (census: Census) => void>();
  private worker: Worker | null = null;
  private readonly listeners = new Set<Listener>();
  private piece: Piece | null = null;
  private playing = false;
  private target: number | null = null;
  private preview: ToEngine & { type: 'preview' } = { type: 'preview', choice: 'auto', room: 540 };
  private deaths = 0;

  constructor(
    private readonly choice: EngineChoice,
    /** What is not asked for is passed over. */
    private readonly events: Partial<EngineEvents>,
  ) {}

  /** Starts a worker that draws on a fresh canvas in this element, where the last one was. */
  attach(holder: HTMLElement): void {
    const canvas = document.createElement('canvas');
    Object.assign(canvas.style, { width: '100%', height: '100%', display: 'block' });
    canvas.setAttribute('aria-hidden', 'true');
    holder.replaceChildren(canvas);
    const offscreen = canvas.transferControlToOffscreen();
    const worker = new Worker(new URL('./engineWorker.ts', import.meta.url), { type: 'module' });
    this.worker?.terminate();
    this.worker = worker;
    worker.onmessage = ({ data }: MessageEvent<FromEngine>) => {
      this.receive(data);
    };
    worker.onerror = (event) => {
      event.preventDefault();
      this.deaths += 1;
      const often = this.deaths > 3;
      this.events.trouble?.(
        `The engine stopped (${event.message}). ${often ? 'It keeps stopping; undo the last change or reload.' : 'It was started again.'}`,
      );
      if (!often) this.events.died?.();
    };
    worker.postMessage({ type: 'start', canvas: offscreen, engine: this.choice }, [offscreen]);
    this.send(this.preview);
    if (this.files.size > 0) this.send({ type: 'stock', files: this.files });
    if (this.bakes.length > 0) this.send({ type: 'bakes', bakes: this.bakes });
    if (this.piece) this.send({ type: 'piece', piece: this.piece });
    if (this.report) this.send({ type: 'seek', frame: Math.max(0, this.report.frame) });
    if (this.playing) this.send({ type: 'play' });
  }

  private receive(message: FromEngine): void {
    switch (message.type) {
      case 'frame':
        this.report = message.report;
        if (message.report.settling === 0 && message.report.frame === this.target) {
          this.target = null;
        }
        for (const listener of this.listeners) listener();
        return;
      case 'notices':
        this.events.notices?.(message.notices);
        return;
      case 'trouble':
        this.events.trouble?.(message.message);
        return;
      case 'thumb':
        this.events.thumb?.(message.blob);
        return;
      case 'census':
        this.asked.get(message.swarm)?.(message.census);
        this.asked.delete(message.swarm);
        return;
      case 'followed':
        this.followed = message.report;
        return;
      case 'took':
        this.events.took?.(message.signal, message.take);
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

  private send(message: ToEngine): void {
    this.worker?.postMessage(message);
  }

  setPiece(piece: Piece): void {
    this.piece = piece;
    this.send({ type: 'piece', piece });
  }

  /** What the piece's stock holds from files; before or after the piece itself. */
  setStock(files: ReadonlyMap<string, StockData>): void {
    this.files = files;
    this.send({ type: 'stock', files });
  }

  /** Stored motion that is to be played instead of simulated. */
  setBakes(bakes: readonly BakeFile[]): void {
    this.bakes = bakes;
    this.send({ type: 'bakes', bakes });
  }

  bake(swarm: string, file: string): void {
    this.send({ type: 'bake', swarm, file });
  }

  stopBake(): void {
    this.send({ type: 'stopBake' });
  }

  /** How many particles of a swarm are seen now. */
  census(swarm: string): Promise<Census> {
    return new Promise((resolve) => {
      this.asked.set(swarm, resolve);
      this.send({ type: 'census', swarm });
    });
  }

  /** Follows the particle nearest to a place in the picture, of a swarm or of any; null: none. */
  follow(at: (ToEngine & { type: 'follow' })['at']): void {
    if (!at) this.followed = null;
    this.send({ type: 'follow', at });
  }

  /** Moves a signal by hand while the piece plays; null lets it go. */
  drive(signal: string, value: number | null): void {
    this.send({ type: 'drive', signal, value });
  }

  play(playing: boolean): void {
    this.playing = playing;
    this.send({ type: playing ? 'play' : 'pause' });
  }

  /** Where the artist is in time: where the last seek goes, else the frame that is shown. */
  get place(): number {
    return this.target ?? Math.max(0, this.report?.frame ?? 0);
  }

  seek(frame: number): void {
    this.target = frame;
    this.send({ type: 'seek', frame });
  }

  setPreview(choice: PreviewChoice, room: number): void {
    this.preview = { type: 'preview', choice, room };
    this.send(this.preview);
  }

  requestThumb(): void {
    this.send({ type: 'thumb' });
  }

  subscribe = (listener: Listener): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
