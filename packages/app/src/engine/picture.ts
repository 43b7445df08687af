import type { LiveEngine, Playback } from '@vast-swarm/core/play';
import type { Plan } from '@vast-swarm/core/plan';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { Follower } from './follower';
import type { EngineEvent, PreviewChoice, Spot } from './messages';
import { PreviewSize } from './previewSize';

/** The piece whose frame is shown, and how. */
interface Shown {
  piece: Piece;
  plan: Plan;
  camera: () => CameraPose;
  playing: boolean;
  /** Frames that are still to come on the way to the one that is sought. */
  settling: number;
}

/** The picture of the state: as large as time allows, and the particle in it that is followed. */
export class Picture {
  /** Whether there is something new to be shown. */
  dirty = false;
  /** Standing still the frame is drawn once more, as large as there is room for. */
  coarse = false;
  private readonly size = new PreviewSize();
  private readonly follower: Follower;

  constructor(
    private readonly engine: LiveEngine,
    private readonly playback: Playback,
    private readonly send: (message: EngineEvent) => void,
  ) {
    this.follower = new Follower(engine);
  }

  choose(choice: PreviewChoice, room: number): void {
    this.size.choose(choice, room);
    this.dirty = true;
  }

  /** Finds the particle at a spot, and follows it; null lets it go. */
  async follow(at: Spot | null, { piece, camera }: Pick<Shown, 'piece' | 'camera'>): Promise<void> {
    this.follower.stop();
    if (!at) return;
    await this.follower.pick(piece, camera(), at);
    this.dirty = true;
  }

  /** A frame took so many milliseconds, of which so many went into motion; there is a step for it. */
  learn(took: number, motion: number, step: number): void {
    this.size.learn(took, motion, step);
  }

  /** Shows the frame of the state; gives its size in pixels. */
  async show({
    piece,
    plan,
    camera,
    playing,
    settling,
  }: Shown): Promise<{ width: number; height: number }> {
    const { width, height } = piece.frame;
    const { size } = this;
    const lines = Math.min(size.lines, height);
    const columns = Math.max(16, Math.round((width / height) * lines));
    this.dirty = false;
    const free = size.auto && !playing && settling === 0;
    // A finish that remembers would begin anew at another size.
    this.coarse = free && size.lines < size.most && !plan.finish.remembers;
    await this.playback.ready();
    // What moves is drawn sharp: several moments a frame would cost as many times the time.
    await this.engine.show(columns, lines, playing ? 1 : Infinity);
    if (this.follower.on) {
      this.send({ type: 'followed', report: await this.follower.report(piece, camera()) });
    }
    return { width: columns, height: lines };
  }

  /** The frame once more with all the lines there is room for, when nothing else is to be done. */
  async refine(show: () => Promise<void>): Promise<void> {
    const { size } = this;
    const { lines } = size;
    size.lines = size.most;
    await show();
    size.lines = lines;
    this.coarse = false;
  }
}
