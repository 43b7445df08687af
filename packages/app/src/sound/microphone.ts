import { Listeners } from '../live/listeners';
import { MediaDevice } from '../live/mediaDevice';
import capture from './capture.worklet.ts?worker&url';

interface Opened {
  stream: MediaStream;
  context: AudioContext;
  node: AudioWorkletNode;
}

/** A microphone or a line in. */
export class Microphone extends MediaDevice<Opened> {
  /** How loud it is, 0 to 1. */
  level = 0;
  private readonly meters = new Listeners();

  constructor() {
    super('audioinput', 'vast-swarm.input');
  }

  /** The level has changed, thirty times a second. */
  readonly measured = this.meters.add;

  protected async connect(device: string): Promise<Opened> {
    const stream = await navigator.mediaDevices.getUserMedia({
      audio: {
        ...(device ? { deviceId: { exact: device } } : {}),
        // As it sounds: what is made for speech would take the quiet and the loud out of it.
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
      },
    });
    const context = new AudioContext({ latencyHint: 'interactive' });
    await context.audioWorklet.addModule(capture);
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 });
    node.port.onmessage = ({ data }: MessageEvent<number>) => {
      this.level = data;
      this.meters.tell();
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

  protected unplug({ node }: Opened): void {
    node.port.postMessage(null);
  }

  protected release({ stream, context }: Opened): void {
    for (const track of stream.getTracks()) track.stop();
    void context.close();
    this.level = 0;
    this.meters.tell();
  }
}
