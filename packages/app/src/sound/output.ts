import { FULL_SCALE, placeIn, type Heard, type Sound } from '@vast-swarm/core';

/** Seconds that sound and picture may be apart before the sound is begun anew where the picture is. */
const APART = 0.08;

/** Seconds that are heard of a place that somebody goes to, and how long it comes and goes. */
const GRAIN = 0.09;
const EDGE = 0.012;

/** What newer browsers can; the types do not know it yet. */
type Sinking = AudioContext & { setSinkId?: (device: string) => Promise<void> };

/** What of a piece is heard beside its picture. */
export class SoundOutput {
  private context: AudioContext | null = null;
  private master: GainNode | null = null;
  private loudness = 1;
  private device = '';
  private playing: { nodes: AudioBufferSourceNode[]; begun: number; time: number } | null = null;
  private readonly buffers = new WeakMap<Sound, AudioBuffer>();

  /** How loud all of it is, 0 to 1. */
  setLevel(level: number): void {
    this.loudness = level;
    if (this.master) this.master.gain.value = level;
  }

  /** Where it is heard: the id of a device, '' for the usual one. Resolves to whether that can be. */
  async setDevice(device: string): Promise<boolean> {
    this.device = device;
    const context: Sinking | null = this.context;
    if (!context?.setSinkId) return device === '';
    return context.setSinkId(device).then(
      () => true,
      () => false,
    );
  }

  private open(): AudioContext {
    if (!this.context) {
      this.context = new AudioContext();
      this.master = this.context.createGain();
      this.master.gain.value = this.loudness;
      this.master.connect(this.context.destination);
      if (this.device) void this.setDevice(this.device);
    }
    // Until somebody has touched the page, a browser keeps it silent.
    if (this.context.state === 'suspended') void this.context.resume();
    return this.context;
  }

  /** A short piece of what is heard at a second of the piece, as somebody goes along. */
  grain(heard: readonly Heard[], time: number): void {
    const context = this.open();
    this.stop();
    const now = context.currentTime;
    for (const one of heard) {
      const place = placeIn(one, time);
      if (!place) continue;
      const node = context.createBufferSource();
      node.buffer = this.bufferOf(context, one.sound);
      const level = this.levelOf(context);
      node.connect(level);
      const { gain } = level;
      gain.setValueAtTime(0, now);
      gain.linearRampToValueAtTime(place.gain, now + EDGE);
      gain.setValueAtTime(place.gain, now + GRAIN - EDGE);
      gain.linearRampToValueAtTime(0, now + GRAIN);
      node.start(now, place.at, GRAIN);
    }
  }

  private levelOf(context: AudioContext): GainNode {
    const level = context.createGain();
    level.connect(this.master!);
    return level;
  }

  /** Goes on with what is heard at a second of the piece, or begins there where it is elsewhere. */
  follow(heard: readonly Heard[], time: number): void {
    const context = this.open();
    const { playing } = this;
    const now = playing && playing.time + context.currentTime - playing.begun;
    if (now !== null && Math.abs(now - time) < APART) return;
    this.stop();
    const nodes = heard.flatMap((one) => this.begin(context, one, time));
    this.playing = { nodes, begun: context.currentTime, time };
  }

  stop(): void {
    for (const node of this.playing?.nodes ?? []) node.stop();
    this.playing = null;
  }

  close(): void {
    this.stop();
    void this.context?.close();
    [this.context, this.master] = [null, null];
  }

  private begin(context: AudioContext, heard: Heard, time: number): AudioBufferSourceNode[] {
    const { sound, start, from, to, repeats } = heard;
    const length = to - from;
    const into = time - start;
    if (length <= 0 || (!repeats && into >= length)) return [];
    const node = context.createBufferSource();
    node.buffer = this.bufferOf(context, sound);
    Object.assign(node, { loop: repeats, loopStart: from, loopEnd: to });
    const level = this.levelOf(context);
    faded(level.gain, heard, into, context.currentTime);
    node.connect(level);
    const at = repeats ? Math.max(0, into) % length : Math.max(0, into);
    const begin = context.currentTime + Math.max(0, -into);
    if (repeats) node.start(begin, from + at);
    else node.start(begin, from + at, length - at);
    return [node];
  }

  private bufferOf(context: AudioContext, sound: Sound): AudioBuffer {
    const known = this.buffers.get(sound);
    if (known) return known;
    const { channels, rate } = sound;
    const buffer = context.createBuffer(channels.length, channels[0]!.length, rate);
    channels.forEach((channel, k) => {
      buffer.copyToChannel(
        Float32Array.from(channel, (v) => v / FULL_SCALE),
        k,
      );
    });
    this.buffers.set(sound, buffer);
    return buffer;
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
