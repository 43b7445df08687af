import { phaseOf } from '../feeds/loop';
import type { BlockTrack } from '../language/track';
import type { FrameSettings } from '../piece/types';

/** Bytes of blocks that are kept at hand if nothing else is said. */
const BUDGET = 64 * 2 ** 20;
/** Frames that are asked for ahead of what is wanted. */
const AHEAD = 2;

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
  private readonly blocks = new Map<string, { values: Float32Array; track: BlockTrack }>();
  private bytes = 0;
  /** Blocks that were asked for and are not there yet. */
  private readonly coming = new Map<string, Promise<Float32Array>>();

  constructor(private readonly budget = BUDGET) {}

  /** Frames of the piece; they may come round. */
  frames: Pick<FrameSettings, 'loop' | 'length'> = { length: 1 };

  private blockAt(track: BlockTrack, frame: number): number {
    return track.blockAt(Math.max(0, phaseOf(this.frames, frame)));
  }

  /** Resolves when all that a step to `frame` takes is at hand. */
  async ready(tracks: readonly BlockTrack[], frame: number): Promise<void> {
    const coming = tracks.map((track) => this.blockOf(track, frame));
    // Together, so that whatever fails of them is heard of.
    await Promise.all(coming.filter((block) => block !== undefined));
  }

  /** The same for a picture of `frame`, and for the step behind it; what comes after that is asked for. */
  async readyAround(tracks: readonly BlockTrack[], frame: number): Promise<void> {
    await Promise.all([this.ready(tracks, frame), this.ready(tracks, frame + 1)]);
    for (let next = frame + 2; next < frame + 2 + AHEAD; next++) {
      for (const track of tracks) {
        // What cannot be read is told when it is wanted.
        if (track.back) void this.blockOf(track, next)?.catch(() => undefined);
      }
    }
  }

  /**
   * The numbers of a track in a frame.
   * @throws TrackNotReady where it comes from afar and was not waited for
   */
  take(track: BlockTrack, frame: number): Float32Array {
    const block = this.blockAt(track, frame);
    const known = this.known(track, block);
    if (known) return known;
    const read = track.read(block);
    if (read instanceof Promise) {
      throw new TrackNotReady(`The track '${track.name}' is not ready for frame ${String(frame)}.`);
    }
    return this.keep(track, block, read);
  }

  /** Has a block come, where it is not at hand. */
  private blockOf(track: BlockTrack, frame: number): Promise<Float32Array> | undefined {
    const block = this.blockAt(track, frame);
    if (this.known(track, block)) return undefined;
    const key = `${track.name} ${String(block)}`;
    const known = this.coming.get(key);
    if (known) return known;
    const read = track.read(block);
    if (!(read instanceof Promise)) {
      this.keep(track, block, read);
      return undefined;
    }
    const kept = read
      .then((values) => this.keep(track, block, values))
      .finally(() => this.coming.delete(key));
    this.coming.set(key, kept);
    return kept;
  }

  private known({ name }: BlockTrack, block: number): Float32Array | undefined {
    const key = `${name} ${String(block)}`;
    const kept = this.blocks.get(key);
    if (kept) {
      this.blocks.delete(key);
      this.blocks.set(key, kept);
    }
    return kept?.values;
  }

  private keep(track: BlockTrack, block: number, values: Float32Array): Float32Array {
    const { name, words } = track;
    if (values.length !== words) {
      throw new Error(`Block ${String(block)} of '${name}' has ${String(values.length)} numbers`);
    }
    const key = `${name} ${String(block)}`;
    // Who takes a block at once does not wait for the same one that is coming.
    this.bytes += values.byteLength - (this.blocks.get(key)?.values.byteLength ?? 0);
    this.blocks.set(key, { values, track });
    for (const [other, old] of this.blocks) {
      if (this.bytes <= this.budget || old.values === values) break;
      this.blocks.delete(other);
      this.bytes -= old.values.byteLength;
      old.track.back?.(old.values);
    }
    return values;
  }
}
