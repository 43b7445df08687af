import type { BlockTrack } from '../language/track';

/** Bytes of blocks that are kept at hand if nothing else is said. */
const BUDGET = 64 * 2 ** 20;

/** A step was asked for whose tracks are not at hand: `ready` was not waited for. */
export class TrackNotReady extends Error {
  override readonly name = 'TrackNotReady';
}

/**
 * Has the blocks of tracks at hand: read ahead before a step, taken in it, dropped when there are more
 * than the budget allows, those that were longest not asked for first.
 */
export class TrackReader {
  /** In order of use. */
  private readonly blocks = new Map<string, Float32Array>();
  private bytes = 0;

  constructor(private readonly budget = BUDGET) {}

  /** Resolves when all that a step to `frame` takes is at hand. */
  async ready(tracks: readonly BlockTrack[], frame: number): Promise<void> {
    for (const track of tracks) {
      const block = track.blockAt(Math.max(0, frame));
      if (!this.known(track, block)) this.keep(track, block, await track.read(block));
    }
  }

  /** The same for a picture of `frame`, and for the step behind it. */
  async readyAround(tracks: readonly BlockTrack[], frame: number): Promise<void> {
    await this.ready(tracks, frame);
    await this.ready(tracks, frame + 1);
  }

  /**
   * What a track is in a frame.
   * @throws TrackNotReady where it comes from afar and was not waited for
   */
  take(track: BlockTrack, frame: number): Float32Array {
    const block = track.blockAt(Math.max(0, frame));
    const known = this.known(track, block);
    if (known) return known;
    const read = track.read(block);
    if (read instanceof Promise) {
      throw new TrackNotReady(`The track '${track.name}' is not ready for frame ${String(frame)}.`);
    }
    return this.keep(track, block, read);
  }

  private known({ name }: BlockTrack, block: number): Float32Array | undefined {
    const key = `${name} ${String(block)}`;
    const values = this.blocks.get(key);
    if (values) {
      this.blocks.delete(key);
      this.blocks.set(key, values);
    }
    return values;
  }

  private keep({ name, words }: BlockTrack, block: number, values: Float32Array): Float32Array {
    if (values.length !== words) {
      throw new Error(`Block ${String(block)} of '${name}' has ${String(values.length)} numbers`);
    }
    const key = `${name} ${String(block)}`;
    // Two who waited for one block have read it twice.
    this.bytes += values.byteLength - (this.blocks.get(key)?.byteLength ?? 0);
    this.blocks.set(key, values);
    for (const [other, old] of this.blocks) {
      if (this.bytes <= this.budget || old === values) break;
      this.blocks.delete(other);
      this.bytes -= old.byteLength;
    }
    return values;
  }
}
