import type { Device } from './devices';
import { Listeners } from './listeners';

/** A live input, as far as it is known. */
export interface DeviceState {
  state: 'closed' | 'opening' | 'open';
  /** Inputs that can be chosen; they have names once there is permission. */
  devices: readonly Device[];
  /** The input that is chosen; '' is the browser's own choice. */
  device: string;
  /** The part of the piece that is being recorded. */
  recording: string | null;
  /** Why it could not be opened, or was closed, in words for the artist. */
  problem: string | null;
}

/** An input of the machine: permission is asked for when it is opened, and not before. */
export abstract class LiveDevice<Opened> {
  private now: DeviceState;
  protected opened: Opened | null = null;
  private readonly listeners = new Listeners();

  /** @param key under which the browser remembers the device that was chosen */
  constructor(private readonly key: string) {
    const device = localStorage.getItem(key) ?? '';
    this.now = { state: 'closed', devices: [], device, recording: null, problem: null };
  }

  /** Inputs that can be chosen. */
  protected abstract listed(): Promise<readonly Device[]>;
  /** Why it could not be opened, in words for the artist. */
  protected abstract why(error: unknown): string;
  /** Opens the device that is chosen; what goes wrong is thrown. */
  protected abstract connect(device: string): Promise<Opened>;
  /** Lets go what was opened. */
  protected abstract release(opened: Opened): void;
  /** Sends nothing of the input any more. */
  protected abstract unplug(opened: Opened): void;

  get state(): DeviceState {
    return this.now;
  }

  /** Tells a listener of each change of the state. */
  readonly subscribe = this.listeners.add;

  protected put(part: Partial<DeviceState>): void {
    this.now = { ...this.now, ...part };
    this.listeners.tell();
  }

  /** Whether it is open now. What is wrong is in its state. */
  async open(): Promise<boolean> {
    if (this.opened) return true;
    this.put({ state: 'opening', problem: null });
    try {
      this.opened = await this.connect(this.now.device);
      this.put({ devices: await this.listed() });
      this.put({ state: 'open' });
      return true;
    } catch (error) {
      this.put({ state: 'closed', problem: this.why(error) });
      return false;
    }
  }

  /** Another input, opened at once where one was open. */
  async choose(device: string): Promise<void> {
    localStorage.setItem(this.key, device);
    const open = this.opened !== null;
    if (open) this.close();
    this.put({ device });
    if (open) await this.open();
  }

  /** Sends nothing of the input any more, and records nothing. */
  rest(): void {
    if (this.opened) this.unplug(this.opened);
    if (this.now.recording !== null) this.put({ recording: null });
  }

  /** Closes it for good. */
  dispose(): Promise<void> {
    this.close();
    return Promise.resolve();
  }

  close(problem: string | null = null): void {
    const { opened } = this;
    this.rest();
    this.opened = null;
    if (opened) this.release(opened);
    this.put({ state: 'closed', problem });
  }
}
