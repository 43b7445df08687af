import { allPlayed, type Piece, type Played } from '@vast-swarm/core/piece';
import type { Pass } from '@vast-swarm/core/show';
import type { StockData } from '@vast-swarm/core/stock';
import { filesOf } from '../data/stock';
import { EngineClient } from '../engine/client';
import type { EngineChoice, FrameReport, PreviewChoice } from '../engine/messages';
import type { Play } from '../engine/plays';

/** Milliseconds before an engine that has stopped is started again. */
const AGAIN = 500;

/** Events of a player; all of them for as long as it is there. */
export interface PlayerEvents {
  frame: (report: FrameReport) => void;
  /** Acts that were recorded. */
  recorded: (played: Played[]) => void;
  /** Time has jumped, with so much played beside what the piece has. */
  jumped: (played: Played[]) => void;
  trouble: (message: string) => void;
}

/** One pass of a show: its piece with an engine of its own, and the element that shows it. */
export class Player {
  readonly element = document.createElement('div');
  private readonly box = document.createElement('div');
  client: EngineClient;
  /** All that was played since it began, or since its time jumped, beside what the piece has. */
  private played: Played[];
  private playing = false;
  private speed = 1;
  private lines: [choice: PreviewChoice, room: number] = ['auto', 540];
  private at: number;
  private files: ReadonlyMap<string, StockData> = new Map();
  private closed = false;
  /** When it was heard of last, by the page's own clock. */
  heardAt = performance.now();

  /** @param played what was played before it begins, beside what the piece has */
  constructor(
    readonly pass: Pass,
    readonly piece: Piece,
    played: readonly Played[],
    private readonly choice: EngineChoice,
    private readonly events: PlayerEvents,
  ) {
    this.played = [...played];
    this.at = pass.begun;
    const { width, height } = piece.frame;
    this.element.className = 'pass';
    this.box.className = 'fit';
    this.box.style.setProperty('--shape', String(width / height));
    this.element.append(this.box);
    this.client = this.started();
    void filesOf(piece.stock).then((files) => {
      this.files = files;
      this.tell(this.client);
    });
  }

  /** A fresh engine. */
  private started(): EngineClient {
    const client: EngineClient = new EngineClient(this.choice, {
      trouble: this.events.trouble,
      recorded: (played) => {
        this.played.push(...played);
        this.events.recorded(played);
      },
      jumped: (played) => {
        this.played = [...played];
        this.events.jumped(played);
      },
      died: () => {
        setTimeout(() => {
          if (this.client === client) this.revive();
        }, AGAIN);
      },
    });
    client.attach(this.box);
    client.subscribe(() => {
      const { report } = client;
      if (!report || client !== this.client) return;
      this.heardAt = performance.now();
      if (report.settling === 0) this.at = report.frame;
      this.events.frame(report);
    });
    return client;
  }

  /** Tells a fresh engine all that it has to know. */
  private tell(client: EngineClient): void {
    client.setPreview(...this.lines);
    client.setStock(this.files);
    // Before the piece: it is compiled once then.
    this.run(client);
    client.setPiece(this.piece);
    client.pace(this.speed);
    client.play(this.playing);
  }

  /** Lets an engine run the pass from where it stands. */
  private run(client: EngineClient): void {
    const { pass, piece, at, played } = this;
    client.run({ at, until: pass.until, played: allPlayed(piece.played, played) });
  }

  /** Starts it again where it stands. */
  revive(): void {
    if (this.closed) return;
    this.client.close();
    this.client = this.started();
    this.tell(this.client);
  }

  play(playing: boolean): void {
    this.playing = playing;
    this.client.play(playing);
  }

  pace(speed: number): void {
    this.speed = speed;
    this.client.pace(speed);
  }

  act(play: Play): void {
    this.client.act(play);
  }

  jump(frame: number): void {
    this.at = frame;
    this.client.jump(frame);
    this.client.play(this.playing);
  }

  /** Goes on at a frame as if so much had been played beside what the piece has. */
  begin(frame: number, played: readonly Played[]): void {
    this.at = frame;
    this.played = [...played];
    this.run(this.client);
    this.client.play(this.playing);
  }

  /** How much of it is seen, 0 to 1. */
  get seen(): number {
    return Number(this.element.style.opacity);
  }

  set seen(part: number) {
    this.element.style.opacity = String(part);
  }

  /**
   * Lines that the picture has on the screen.
   *
   * @param fixed whether it has them, however long it takes
   */
  fit(lines: number, fixed: boolean): void {
    this.lines = [fixed ? lines : 'auto', lines];
    this.client.setPreview(...this.lines);
  }

  /** The canvas it draws on. */
  private get canvas(): HTMLCanvasElement | null {
    return this.box.querySelector('canvas');
  }

  /** Paints what it shows, as large as fits into a canvas, over what is there. */
  paint(context: CanvasRenderingContext2D): void {
    const { canvas } = this;
    if (!canvas || this.seen === 0) return;
    const { width, height } = context.canvas;
    const { width: w, height: h } = this.piece.frame;
    const scale = Math.min(width / w, height / h);
    context.globalAlpha = this.seen;
    context.fillStyle = '#000';
    context.fillRect(0, 0, width, height);
    const [across, down] = [w * scale, h * scale];
    context.drawImage(canvas, (width - across) / 2, (height - down) / 2, across, down);
    context.globalAlpha = 1;
  }

  close(): void {
    this.closed = true;
    this.client.close();
    this.element.remove();
  }
}
