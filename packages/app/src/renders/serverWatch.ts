import type { FarmWorker, RenderJob } from '@vast-swarm/core/formats';
import { serverRenders } from './serverRenders';
import { tellEnded } from './tellEnded';

/** Milliseconds between two looks. */
const EVERY = 1000;

export interface Watched {
  /** Null until they are known. */
  jobs: readonly RenderJob[] | null;
  /** Who makes frames for the server; null where it does so itself. */
  workers: readonly FarmWorker[] | null;
  /** Why there are none. */
  trouble: string | null;
}

/** Whether it may be through at the next look. */
const isOnItsWay = ({ state }: RenderJob): boolean => state === 'waiting' || state === 'running';

/**
 * The renders at the server, looked at again and again while somebody wants to see them, or one of them is not through: so
 * that it is told when it is.
 */
class ServerWatch {
  private watched: Watched = { jobs: null, workers: null, trouble: null };
  private readonly listeners = new Set<() => void>();
  private looks = 0;
  private next: ReturnType<typeof setTimeout> | undefined;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    void this.look();
    return () => this.listeners.delete(listener);
  };

  readonly seen = (): Watched => this.watched;

  /** Looks now, and then again as long as there is a reason to. */
  async look(): Promise<void> {
    clearTimeout(this.next);
    const look = (this.looks += 1);
    await this.once();
    const more = this.listeners.size > 0 || (this.watched.jobs?.some(isOnItsWay) ?? false);
    // Somebody may have looked meanwhile.
    if (more && look === this.looks) this.next = setTimeout(() => void this.look(), EVERY);
  }

  private async once(): Promise<void> {
    const before = this.watched.jobs ?? [];
    try {
      const { jobs, workers } = await serverRenders();
      this.watched = { jobs, workers, trouble: null };
      for (const job of jobs) {
        const open = before.some((known) => known.id === job.id && isOnItsWay(known));
        if (open) tellEnded({ ...job, name: job.order.name, view: null });
      }
    } catch (error) {
      const trouble = error instanceof Error ? error.message : String(error);
      this.watched = { ...this.watched, trouble };
    }
    for (const listener of this.listeners) listener();
  }
}

export const serverWatch = new ServerWatch();
