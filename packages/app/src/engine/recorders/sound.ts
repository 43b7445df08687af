import { HEARD_AHEAD, LiveSound, type Sound } from '@vast-swarm/core/stock';
import type { Recorder } from './recording';

/** Milliseconds that a frame waits for sound before it goes on in silence. */
const PATIENCE = 400;
/** Frames that the picture may be behind what comes in; what is beyond is left out of the take. */
const MOST_BEHIND = 1.5;

/** The take of a sound, and the frame of the piece at which it begins. */
export interface SoundTake {
  part: string;
  start: number;
  take: Sound;
  /** Seconds that came in and could not be kept up with; they are not in the take. */
  lost: number;
}

type Port = Pick<MessagePort, 'onmessage' | 'close'>;

/**
 * Sound that comes in and drives the piece. Each frame takes from it what lasts as long as the frame, and the take is
 * made of nothing but that: so the picture never falls behind by more than two frames, and what was seen is what is
 * rendered from the take.
 */
export class SoundRecorder implements Recorder<LiveSound, SoundTake> {
  private readonly rate: number;
  private readonly port: Port;
  private parts: Int16Array[] = [];
  private waiting = 0;
  private arrived: () => void = () => undefined;
  private lost = 0;
  private start = 0;
  private live: LiveSound | null = null;

  /**
   * @param part id of the sound that is driven
   * @param from samples a second, and where they come from, as Int16Array
   */
  constructor(
    readonly part: string,
    { rate, port }: { rate: number; port: Port },
  ) {
    this.rate = rate;
    this.port = port;
    port.onmessage = ({ data }: MessageEvent<Int16Array>) => {
      this.take(data);
      this.arrived();
    };
  }

  private take(samples: Int16Array): void {
    // Before anything is recorded only what comes in just now counts.
    if (!this.live) [this.parts, this.waiting] = [[], 0];
    this.parts.push(samples);
    this.waiting += samples.length;
  }

  /** The sound as it is recorded so far; null before it is begun. */
  get input(): LiveSound | null {
    return this.live;
  }

  /** Begins a take at a frame of a piece with so many frames a second. */
  begin(frame: number, frameRate: number): void {
    this.start = frame;
    this.live = new LiveSound(this.rate, frame / frameRate);
  }

  /** Before a step to `frame`: takes what it hears, and waits for it. */
  async until(frame: number, frameRate: number): Promise<void> {
    const live = this.live!;
    const time = (frame + 1) / frameRate + HEARD_AHEAD;
    const wanted = Math.ceil((time - live.start) * this.rate) - live.length;
    if (wanted <= 0) return;
    const patience = performance.now() + PATIENCE;
    while (this.waiting < wanted) {
      const left = patience - performance.now();
      if (left <= 0) break;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, left);
        this.arrived = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    }
    live.append(this.give(wanted));
  }

  /** Frames that have come in and were not taken yet. */
  behind(frameRate: number): number {
    return (this.waiting / this.rate) * frameRate;
  }

  /** Leaves out what cannot be kept up with. */
  catchUp(frameRate: number): void {
    const most = Math.round((MOST_BEHIND * this.rate) / frameRate);
    if (this.waiting <= most) return;
    const left = this.waiting - Math.round(this.rate / frameRate);
    this.give(left);
    this.lost += left / this.rate;
  }

  /** So many of the samples that wait; silence where there are fewer. */
  private give(count: number): Int16Array {
    const all = new Int16Array(count);
    for (let at = 0; at < count;) {
      const [first] = this.parts;
      if (!first) break;
      const part = first.subarray(0, count - at);
      all.set(part, at);
      at += part.length;
      this.waiting -= part.length;
      if (part.length === first.length) this.parts.shift();
      else this.parts[0] = first.subarray(part.length);
    }
    return all;
  }

  /** Ends the take; null where nothing was recorded. */
  end(): SoundTake | null {
    const { live, part, start, lost } = this;
    this.port.close();
    return live && live.length > 0 ? { part, start, take: live.copy(), lost } : null;
  }
}
