import capture from './capture.worklet.ts?worker&url';
import { devicesOf, type Device } from './devices';
import { problemOf } from './problems';

/** What is known of live sound. */
export interface MicrophoneState {
  state: 'closed' | 'opening' | 'open';
  /** Inputs that can be chosen; they have names once there is permission. */
  devices: readonly Device[];
  /** The input that is chosen; '' is the browser's own choice. */
  device: string;
  /** The sound of the piece that is being recorded. */
  recording: string | null;
  /** Why it could not be opened, or was closed, in words for the artist. */
  problem: string | null;
}

const KEY = 'vast-swarm.input';

interface Opened {
  stream: MediaStream;
  context: AudioContext;
  node: AudioWorkletNode;
}

/** A microphone or a line in: permission is asked for when it is opened, and not before. */
export class Microphone {
  private now: MicrophoneState = {
    ...{ state: 'closed', devices: [], device: localStorage.getItem(KEY) ?? '' },
    ...{ recording: null, problem: null },
  };
  /** How loud it is, 0 to 1. */
  level = 0;
  private opened: Opened | null = null;
  private readonly listeners = new Set<() => void>();
  private readonly meters = new Set<() => void>();

  get state(): MicrophoneState {
    return this.now;
  }

  /** What is known has changed. */
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The level has changed, thirty times a second. */
  measured = (listener: () => void): (() => void) => {
    this.meters.add(listener);
    return () => this.meters.delete(listener);
  };

  private put(part: Partial<MicrophoneState>): void {
    this.now = { ...this.now, ...part };
    for (const listener of this.listeners) listener();
  }

  /** Whether it is open now. What is wrong is in its state. */
  async open(): Promise<boolean> {
    if (this.opened) return true;
    this.put({ state: 'opening', problem: null });
    try {
      this.opened = await this.connect();
      await this.list();
      this.put({ state: 'open' });
      return true;
    } catch (error) {
      this.put({ state: 'closed', problem: problemOf(error) });
      return false;
    }
  }

  private async connect(): Promise<Opened> {
    const { device } = this.now;
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: {
        ...(device ? { deviceId: { exact: device } } : {}),
        // As it sounds: what is made for speech would take the quiet and the loud out of it.
        ...{ echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      },
    });
    const context = new AudioContext({ latencyHint: 'interactive' });
    await context.audioWorklet.addModule(capture);
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
    node.port.onmessage = ({ data }: MessageEvent<number>) => {
      this.level = data;
      for (const meter of this.meters) meter();
    };
    node.onprocessorerror = () => {
      this.close('Listening failed beside the sound card. What was recorded is kept.');
    };
    context.createMediaStreamSource(stream).connect(node);
    await context.resume();
    const [track] = stream.getAudioTracks();
    track!.onended = () => {
      this.close('The input is gone: it was unplugged. What was recorded is kept.');
    };
    return { stream, context, node };
  }

  private async list(): Promise<void> {
    this.put({ devices: await devicesOf('audioinput') });
  }

  /** Another input, opened at once where one was open. */
  async choose(device: string): Promise<void> {
    localStorage.setItem(KEY, device);
    const open = this.opened !== null;
    if (open) this.close();
    this.put({ device });
    if (open) await this.open();
  }

  /**
   * Sends what comes in somewhere, for a sound of the piece.
   * @returns where it comes out, and its samples a second; null where it cannot be opened
   */
  async record(sound: string): Promise<{ port: MessagePort; rate: number } | null> {
    if (!(await this.open())) return null;
    this.rest();
    const { port1, port2 } = new MessageChannel();
    const { node, context } = this.opened!;
    node.port.postMessage(port1, [port1]);
    this.put({ recording: sound });
    return { port: port2, rate: context.sampleRate };
  }

  /** What comes in goes nowhere from now on. */
  rest(): void {
    this.opened?.node.port.postMessage(null);
    if (this.now.recording !== null) this.put({ recording: null });
  }

  close(problem: string | null = null): void {
    const { opened } = this;
    this.rest();
    this.opened = null;
    for (const track of opened?.stream.getTracks() ?? []) track.stop();
    void opened?.context.close();
    this.level = 0;
    this.put({ state: 'closed', problem });
    for (const meter of this.meters) meter();
  }
}
