import { FULL_SCALE, placeIn, type Heard } from '@vast-swarm/core/stock';

/** Seconds of a sound that are made ready at once, and how long before they are wanted. */
const PART = 4;
const AHEAD = 1.5;
/** Seconds in which a grain comes and goes. */
const EDGE = 0.012;

/** One sound that is heard from a second of the piece on, made ready part by part: it may be an hour long. */
export class Voice {
  private readonly level: GainNode;
  private readonly nodes = new Set<AudioBufferSourceNode>();
  private readonly begun: number;
  /** The second of the piece up to which it is ready. */
  private ready: number;

  constructor(
    private readonly context: AudioContext,
    out: AudioNode,
    private readonly heard: Heard,
    private readonly time: number,
  ) {
    this.begun = context.currentTime;
    this.ready = Math.max(time, heard.start);
    this.level = context.createGain();
    this.level.connect(out);
    faded(this.level.gain, heard, time - heard.start, this.begun);
  }

  /** Makes ready what comes soon. */
  goOn(): void {
    const now = this.time + this.context.currentTime - this.begun;
    while (this.ready < now + AHEAD) {
      const length = this.left();
      if (length <= 0) return;
      this.start(length);
      this.ready += length;
    }
  }

  /** Seconds that can be made ready in one go: up to the sound's end, or to where it begins again. */
  private left(): number {
    const { start, from, to, repeats, until = Infinity } = this.heard;
    const length = to - from;
    if (length <= 0) return 0;
    const into = this.ready - start;
    const end = repeats ? length * (Math.floor(into / length + 1e-9) + 1) : length;
    return Math.min(PART, end - into, until - this.ready);
  }

  private start(seconds: number): void {
    const { sound } = this.heard;
    const place = placeIn(this.heard, this.ready + 1e-9);
    if (!place) return;
    const first = Math.round(place.at * sound.rate);
    const count = Math.max(1, Math.round(seconds * sound.rate));
    const buffer = this.context.createBuffer(sound.channels.length, count, sound.rate);
    sound.channels.forEach((channel, k) => {
      const part = channel.subarray(first, first + count);
      buffer.copyToChannel(
        Float32Array.from(part, (v) => v / FULL_SCALE),
        k,
      );
    });
    const node = this.context.createBufferSource();
    node.buffer = buffer;
    node.connect(this.level);
    node.onended = () => this.nodes.delete(node);
    this.nodes.add(node);
    node.start(this.begun + this.ready - this.time);
  }

  /** So many seconds of it and no more, that come and go. */
  grain(seconds: number): void {
    const { gain } = this.level;
    const [now, loud] = [this.begun, placeIn(this.heard, this.time)?.gain ?? 0];
    gain.cancelScheduledValues(now);
    gain.setValueAtTime(0, now);
    gain.linearRampToValueAtTime(loud, now + EDGE);
    gain.setValueAtTime(loud, now + seconds - EDGE);
    gain.linearRampToValueAtTime(0, now + seconds);
    this.start(Math.min(seconds, this.left()));
  }

  stop(): void {
    for (const node of this.nodes) node.stop();
    this.nodes.clear();
  }
}

/** Gain and fades of a sound that is `into` seconds under way now; one that repeats is not faded. */
function faded(param: AudioParam, heard: Heard, into: number, now: number): void {
  const { gain, fadeIn, fadeOut, from, to, repeats } = heard;
  param.value = gain;
  if (repeats) return;
  const length = to - from;
  if (fadeIn > 0 && into < fadeIn) {
    param.setValueAtTime(gain * Math.max(0, into / fadeIn), now);
    param.linearRampToValueAtTime(gain, now + fadeIn - into);
  }
  if (fadeOut > 0) {
    const left = Math.min(fadeOut, length - into);
    param.setValueAtTime(gain * (left / fadeOut), now + Math.max(0, length - fadeOut - into));
    param.linearRampToValueAtTime(0, now + length - into);
  }
}
