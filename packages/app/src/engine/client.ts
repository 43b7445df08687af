import type { Piece } from '@vast-swarm/core';
import type { EngineChoice, FrameReport, FromEngine, PreviewChoice, ToEngine } from './messages';

type Listener = () => void;

export interface EngineEvents {
  notices: (notices: { part: string; message: string }[]) => void;
  trouble: (message: string) => void;
  thumb: (blob: Blob) => void;
  /** The worker died: a new canvas is needed, then `attach` again. */
  died: () => void;
}

/** The interface's end of the engine's worker. Holds what it takes to start it again. */
export class EngineClient {
  report: FrameReport | null = null;
  private worker: Worker | null = null;
  private readonly listeners = new Set<Listener>();
  private piece: Piece | null = null;
  private playing = false;
  private target: number | null = null;
  private preview: ToEngine & { type: 'preview' } = { type: 'preview', choice: 'auto', room: 540 };
  private deaths = 0;

  constructor(
    private readonly choice: EngineChoice,
    private readonly events: EngineEvents,
  ) {}

  /** Starts a worker that draws on this canvas, where the last one was. */
  attach(canvas: HTMLCanvasElement): void {
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
      this.events.trouble(
        `The engine stopped (${event.message}). ${often ? 'It keeps stopping; undo the last change or reload.' : 'It was started again.'}`,
      );
      if (!often) this.events.died();
    };
    worker.postMessage({ type: 'start', canvas: offscreen, engine: this.choice }, [offscreen]);
    this.send(this.preview);
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
        this.events.notices(message.notices);
        return;
      case 'trouble':
        this.events.trouble(message.message);
        return;
      case 'thumb':
        this.events.thumb(message.blob);
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
