import { openWorker, WorkerDied, type OpenWorker } from '../workers/openWorker';
import type { Job, RenderEnd, RenderEvents, RenderWorker } from './messages';

export type RenderState =
  | { phase: 'idle' }
  /** Others come before it. */
  | { phase: 'waiting' }
  | {
      phase: 'running';
      done: number;
      /** Frames of these that were there when it began. */
      there: number;
      total: number;
      warming: number;
      seconds: number;
      /** The thing that is made ready before the first frame, and the part of it that is done. */
      building?: { name: string; part: number };
      /** Why it was begun anew. */
      again?: string;
    }
  | (RenderEnd & { phase: 'done' } & { frames: number; seconds: number; job: Made })
  | { phase: 'paused'; done: number }
  | { phase: 'cancelled'; done: number }
  | { phase: 'failed'; message: string; done: number };

/** The piece and the settings of a render. */
type Made = Omit<Job, 'id' | 'files'>;

/** Milliseconds that a worker has to end a render by itself. */
const CANCEL_WITHIN = 1500;

/** A listener to a render. */
interface Listener {
  state: (state: RenderState) => void;
  look: (bitmap: ImageBitmap) => void;
}

/** A render in a worker of its own, which is begun anew once where its worker dies. */
export class OneRender {
  private worker: OpenWorker<RenderWorker> | null = null;
  private done = 0;
  private there = 0;

  constructor(
    private readonly job: Job,
    private readonly listener: Listener,
  ) {
    this.begin(null);
  }

  private begin(again: string | null): void {
    const { job } = this;
    const started = performance.now();
    const total = job.last - job.first + 1;
    const made = new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' });
    const own = openWorker<RenderWorker>(made);
    this.worker = own;
    this.done = 0;
    this.there = 0;
    const seconds = (): number => (performance.now() - started) / 1000;
    const tell = (warming: number, building?: { name: string; part: number }): void => {
      // Events come by another way than the end does, and may come behind it.
      if (this.worker !== own) return;
      const more = { ...(again ? { again } : {}), ...(building ? { building } : {}) };
      const { done, there } = this;
      this.listener.state({
        phase: 'running',
        done,
        there,
        total,
        warming,
        seconds: seconds(),
        ...more,
      });
    };
    const events: RenderEvents = {
      progress: (done, there, warming) => {
        this.done = done;
        this.there = there;
        tell(warming);
      },
      building: (name, part) => {
        tell(job.first, { name, part });
      },
      look: this.listener.look,
    };
    tell(job.first);
    const rendered: Promise<RenderEnd> = own.call.render(job, own.called(events));
    own.ask(rendered).then(
      (ended) => {
        if (this.worker !== own) return;
        const more = { frames: total, seconds: seconds(), job };
        this.finish(ended.phase === 'done' ? { ...ended, ...more } : ended);
      },
      (error: unknown) => {
        if (this.worker === own) this.died(error, again === null);
      },
    );
  }

  /** A worker that died once may have been ended from outside; a fault of the piece ends it again. */
  private died(error: unknown, first: boolean): void {
    const why = error instanceof Error ? error.message : String(error);
    const { done } = this;
    if (first && error instanceof WorkerDied) {
      this.close();
      this.begin(`The render stopped at frame ${String(this.job.first + done)} (${why})`);
    } else this.finish({ phase: 'failed', message: `The render stopped: ${why}`, done });
  }

  private finish(ended: RenderState): void {
    this.close();
    this.listener.state(ended);
  }

  /** Ends it, whatever its worker does. */
  cancel(): void {
    const { worker } = this;
    if (!worker) return;
    void worker.call.cancel();
    setTimeout(() => {
      if (this.worker === worker) this.finish({ phase: 'cancelled', done: this.done });
    }, CANCEL_WITHIN);
  }

  close(): void {
    this.worker?.close();
    this.worker = null;
  }
}
