import { LivePictures, type Picture } from '@vast-swarm/core/stock';
import type { Recorder } from './recording';

/** Milliseconds that the first frame waits for a picture. */
const PATIENCE = 2000;

/** The take of a camera, and the frame of the piece at which it begins. */
export interface PictureTake {
  part: string;
  start: number;
  /** Frames from the start at which each of the pictures that were sent begins, in the order they came. */
  begins: number[];
}

interface Size {
  width: number;
  height: number;
}

/** Where pictures come from: one for each time that one is asked for. */
export type PicturePort = Pick<MessagePort, 'onmessage' | 'close' | 'postMessage'>;

/**
 * Pictures that come in and drive the piece. Each frame takes the newest, and asks for another: a camera that has
 * fewer a second than the piece is waited for by nobody. The take is made of nothing but those that were taken.
 */
export class PictureRecorder implements Recorder<LivePictures, PictureTake> {
  private readonly size: Size;
  private readonly port: PicturePort;
  private waiting: Picture | null = null;
  private arrived: () => void = () => undefined;
  private live: LivePictures | null = null;
  private start = 0;

  /** @param part id of the picture that is driven */
  constructor(
    readonly part: string,
    { size, port }: { size: Size; port: PicturePort },
  ) {
    this.size = size;
    this.port = port;
    port.onmessage = ({ data }: MessageEvent<Picture>) => {
      this.waiting = data;
      this.arrived();
    };
    port.postMessage('next');
  }

  get input(): LivePictures | null {
    return this.live;
  }

  begin(frame: number, frameRate: number): void {
    const { width, height } = this.size;
    this.start = frame;
    this.live = new LivePictures(width, height, frameRate, frame);
  }

  /** Before a step to `frame`: takes what has come in. */
  async until(frame: number): Promise<void> {
    const live = this.live!;
    if (!this.waiting && live.changes === 0) await this.first();
    if (!this.waiting) return;
    live.append(frame, this.waiting);
    this.waiting = null;
    this.port.postMessage('next');
  }

  private first(): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, PATIENCE);
      this.arrived = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  end(): PictureTake | null {
    const { live, part, start } = this;
    this.port.close();
    return live && live.changes > 0 ? { part, start, begins: live.begins() } : null;
  }
}
