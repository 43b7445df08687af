import { transfer } from 'comlink';
import { standInOf, type Device } from '../live/devices';
import { Listeners } from '../live/listeners';
import { LiveDevice } from '../live/liveDevice';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { Coming } from '../engine/recorders/motion';
import type { Heard, JointsWorker } from './jointsWorker';

/** Joints that arrive at the server of the page, or of somebody who stands in. */
export class Joints extends LiveDevice<OpenWorker<JointsWorker>> {
  /** Performers that are heard; null while it is closed. */
  heard: Heard | null = null;
  private readonly watchers = new Listeners();

  constructor() {
    super('vast-swarm.joints');
  }

  /** Something else is heard, some times a second. */
  readonly told = this.watchers.add;

  private tell(heard: Heard | null): void {
    this.heard = heard;
    this.watchers.tell();
  }

  protected async connect(device: string): Promise<OpenWorker<JointsWorker>> {
    const worker = openWorker<JointsWorker>(
      new Worker(new URL('./jointsWorker.ts', import.meta.url), { type: 'module' }),
      (message) => {
        this.close(`Hearing joints failed (${message}). What was recorded is kept.`);
      },
    );
    const server = new URL('/joints/watch', location.href);
    server.protocol = server.protocol.replace('http', 'ws');
    const standIn = standInOf(device);
    const from = standIn === null ? { server: server.href } : { standIn };
    const tell = worker.called((heard: Heard) => {
      if (this.opened === worker) this.tell(heard);
    });
    try {
      await worker.ask(worker.call.open(from, tell));
    } catch (error) {
      worker.close();
      throw error;
    }
    return worker;
  }

  /**
   * Sends where joints are somewhere, for a performer of the piece.
   *
   * @returns where it comes out, who they are and how they stand; null where nobody is there
   */
  async record(performer: string): Promise<Coming | null> {
    if (!(await this.open())) return null;
    this.rest();
    const { port1, port2 } = new MessageChannel();
    const { call, ask } = this.opened!;
    const { cast, first } = await ask(call.send(transfer(port1, [port1])));
    if (cast.length === 0) {
      this.put({
        problem: 'Nobody is there: no joints have come in. Send some, or choose a stand-in.',
      });
      return null;
    }
    this.put({ recording: performer, problem: null });
    return { port: port2, cast, first };
  }

  protected listed(): Promise<readonly Device[]> {
    return Promise.resolve([]);
  }

  protected why(error: unknown): string {
    const reason = error instanceof Error ? error.message : String(error);
    return `Joints cannot be heard: ${reason}.`;
  }

  protected unplug({ call }: OpenWorker<JointsWorker>): void {
    void call.rest();
  }

  protected release(worker: OpenWorker<JointsWorker>): void {
    worker.close();
    this.tell(null);
  }
}
