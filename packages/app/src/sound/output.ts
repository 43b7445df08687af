import { placeIn, type Heard } from '@vast-swarm/core/stock';
import { Voice } from './voice';

/** Seconds that sound and picture may be apart before the sound is begun anew where the picture is. */
const APART = 0.08;
/** Seconds that are heard of a place that somebody goes to. */
const GRAIN = 0.09;

/** Abilities of newer browsers that the types do not know yet. */
type Sinking = AudioContext & { setSinkId?: (device: string) => Promise<void> };

/** The sound of a piece beside its picture. */
export class SoundOutput {
  private context: AudioContext | null = null;
  private master: GainNode | null = null;
  private loudness = 1;
  private device = '';
  private playing: { voices: Voice[]; begun: number; time: number } | null = null;

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

  private open(): [AudioContext, GainNode] {
    if (!this.context || !this.master) {
      this.context = new AudioContext();
      this.master = this.context.createGain();
      this.master.gain.value = this.loudness;
      this.master.connect(this.context.destination);
      if (this.device) void this.setDevice(this.device);
    }
    // Until somebody has touched the page, a browser keeps it silent.
    if (this.context.state === 'suspended') void this.context.resume();
    return [this.context, this.master];
  }

  /** A short piece of what is heard at a second of the piece, as somebody goes along. */
  grain(heard: readonly Heard[], time: number): void {
    const [context, master] = this.open();
    this.stop();
    for (const one of heard) {
      if (placeIn(one, time)) new Voice(context, master, one, time).grain(GRAIN);
    }
  }

  /** Goes on with what is heard at a second of the piece, or begins there where it is elsewhere. */
  follow(heard: readonly Heard[], time: number): void {
    const [context, master] = this.open();
    const { playing } = this;
    const now = playing && playing.time + context.currentTime - playing.begun;
    if (now === null || Math.abs(now - time) >= APART) {
      this.stop();
      const voices = heard.map((one) => new Voice(context, master, one, time));
      this.playing = { voices, begun: context.currentTime, time };
    }
    for (const voice of this.playing!.voices) voice.goOn();
  }

  stop(): void {
    for (const voice of this.playing?.voices ?? []) voice.stop();
    this.playing = null;
  }

  close(): void {
    this.stop();
    void this.context?.close();
    [this.context, this.master] = [null, null];
  }
}
