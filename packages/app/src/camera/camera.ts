import { transfer } from 'comlink';
import { MediaDevice } from '../live/mediaDevice';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { CameraWorker } from './cameraWorker';
import { openSource, type Source } from './sources';

/** Milliseconds that the take before is waited for. */
const PATIENCE = 3000;

interface Opened {
  source: Source;
  /** Whether its pictures are sent. */
  sends: boolean;
}

/** A camera, or what stands in for one. */
export class Camera extends MediaDevice<Opened> {
  private worker: OpenWorker<CameraWorker> | null = null;
  /** Resolves when what was recorded last has been taken. */
  private settling: Promise<void> = Promise.resolve();
  private settled: () => void = () => undefined;

  constructor() {
    super('videoinput', 'vast-swarm.camera');
  }

  /** The element of its picture; null while it is closed. */
  get element(): HTMLElement | null {
    return this.opened?.source.element ?? null;
  }

  protected async connect(device: string): Promise<Opened> {
    const source = await openSource(device, () => {
      this.close('The camera is gone: it was unplugged. What was recorded is kept.');
    });
    const opened = { source, sends: false };
    source.onPicture(() => {
      if (opened.sends) void this.send(source);
    });
    return opened;
  }

  private async send({ element, width, height }: Source): Promise<void> {
    const size = { resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' } as const;
    const bitmap = await createImageBitmap(element, size);
    await this.worker?.call.see(transfer(bitmap, [bitmap]));
  }

  /**
   * Sends what it sees somewhere, for a picture of the piece.
   * @returns where it comes out, and its size in pixels; null where it cannot be opened
   */
  async record(
    picture: string,
  ): Promise<{ port: MessagePort; size: { width: number; height: number } } | null> {
    if (!(await this.open())) return null;
    this.rest();
    await this.taken();
    if (!this.opened) return null;
    const { port1, port2 } = new MessageChannel();
    const { source } = this.opened;
    const { width, height } = source;
    try {
      const { call, ask, called } = this.working();
      const trouble = called((why: string) => {
        this.close(`The camera's pictures cannot be recorded any further: ${why}.`);
      });
      await ask(call.begin(width, height, transfer(port1, [port1]), trouble));
    } catch (error) {
      this.put({ problem: error instanceof Error ? error.message : String(error) });
      return null;
    }
    this.settling = new Promise((resolve) => (this.settled = resolve));
    this.opened.sends = true;
    this.put({ recording: picture });
    return { port: port2, size: { width, height } };
  }

  /** Resolves when the latest recording is in its take, or nobody asks for it any more. */
  private taken(): Promise<unknown> {
    return Promise.race([this.settling, new Promise((resolve) => setTimeout(resolve, PATIENCE))]);
  }

  private working(): OpenWorker<CameraWorker> {
    this.worker ??= openWorker<CameraWorker>(
      new Worker(new URL('./cameraWorker.ts', import.meta.url), { type: 'module' }),
      (message) => {
        this.close(`The camera's pictures cannot be coded (${message}).`);
      },
    );
    return this.worker;
  }

  /** A take of what was sent last, see CameraWorker. */
  async take(begins: readonly number[], rate: number): Promise<Uint8Array<ArrayBuffer>> {
    const { call, ask } = this.working();
    return ask(call.take(begins, rate)).finally(this.settled);
  }

  /** Nothing of what was sent last is wanted. */
  settle(): void {
    this.settled();
  }

  protected unplug(opened: Opened): void {
    opened.sends = false;
  }

  protected release({ source }: Opened): void {
    source.close();
  }

  /** Closes it, and lets go what it works with as soon as nobody waits for it. */
  override async dispose(): Promise<void> {
    this.close();
    await this.taken();
    if (this.opened) return;
    this.worker?.close();
    this.worker = null;
  }
}
