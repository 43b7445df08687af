import { LoudnessMeter, STEPS } from '@vast-swarm/core/stock/sound/loudness';
import { sampleOf } from '@vast-swarm/core/stock/read/samples';

/** Runs beside the sound card: brings what comes in to samples as they are kept, and measures how loud it is. */

interface Processor {
  readonly port: MessagePort;
}
declare const AudioWorkletProcessor: new () => Processor;
declare const registerProcessor: (name: string, made: new () => Processor) => void;
declare const sampleRate: number;

/** Samples that are sent at once: 10 ms. */
const PART = 512;
/** How often the loudness is told: each so many steps. */
const EVERY = STEPS / 30;

class Capture extends AudioWorkletProcessor {
  private part = new Int16Array(PART);
  private count = 0;
  private out: MessagePort | null = null;
  private readonly meter = new LoudnessMeter(
    [{ low: 20, high: 20_000, measure: 'rms', window: 0.05 }],
    sampleRate,
    (_, step, loudness) => {
      if (step % EVERY === 0) this.port.postMessage(loudness);
    },
  );

  constructor() {
    super();
    // Where the samples are to go; null: nowhere.
    this.port.onmessage = ({ data }: MessageEvent<MessagePort | null>) => {
      this.out = data;
    };
  }

  process([channels]: Float32Array[][]): boolean {
    const [first] = channels!;
    if (!first) return true;
    const { length } = first;
    this.meter.push(channels!, 1, 0, length);
    for (let i = 0; i < length; i++) {
      let sum = 0;
      for (const channel of channels!) sum += channel[i]!;
      this.part[this.count++] = sampleOf(sum / channels!.length);
      if (this.count === PART) this.send();
    }
    return true;
  }

  private send(): void {
    this.out?.postMessage(this.part, [this.part.buffer]);
    // What was sent is gone.
    if (this.part.length === 0) this.part = new Int16Array(PART);
    this.count = 0;
  }
}

registerProcessor('capture', Capture);
