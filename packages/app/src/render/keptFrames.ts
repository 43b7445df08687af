import { crc32 } from '@vast-swarm/core/stock';
import { library } from '../data/db';

/**
 * The frames of a render that are there: kept in the browser until it is whole, so that a render that was ended goes on with
 * them. Where the browser's storage takes nothing they are in this worker alone.
 */

/** So many of the latest frames are read when a render goes on: what was written last may not be whole. */
const READ = 20;

export class KeptFrames {
  private readonly unkept = new Map<number, Blob>();

  private constructor(
    private readonly render: string,
    private readonly there: Set<number>,
  ) {}

  /** @param size bytes of a frame's file that is not kept here; null where there is none */
  static async of(
    render: string,
    size: (frame: number) => Promise<number | null> = () => Promise.resolve(null),
  ): Promise<KeptFrames> {
    const stored = await library.renderFrames
      .where({ render })
      .toArray()
      .catch(() => []);
    stored.sort((a, b) => b.frame - a.frame);
    const there = new Set<number>();
    for (const [i, one] of stored.entries()) {
      const whole = one.bytes
        ? one.bytes.size === one.size && (i >= READ || (await sumOf(one.bytes)) === one.sum)
        : (await size(one.frame)) === one.size;
      if (whole) there.add(one.frame);
    }
    return new KeptFrames(render, there);
  }

  has(frame: number): boolean {
    return this.there.has(frame);
  }

  /** @param elsewhere whether the bytes have been written into a folder */
  async put(frame: number, bytes: Uint8Array<ArrayBuffer>, elsewhere = false): Promise<void> {
    const kept = elsewhere ? {} : { bytes: new Blob([bytes]), sum: crc32(bytes) };
    try {
      await library.renderFrames.put({ render: this.render, frame, size: bytes.length, ...kept });
    } catch {
      if (kept.bytes) this.unkept.set(frame, kept.bytes);
    }
    this.there.add(frame);
  }

  async bytes(frame: number): Promise<Uint8Array> {
    const stored = await library.renderFrames.get([this.render, frame]).catch(() => undefined);
    const blob = this.unkept.get(frame) ?? stored?.bytes;
    if (!blob) throw new Error(`Frame ${String(frame)} is gone from the browser's storage.`);
    return new Uint8Array(await blob.arrayBuffer());
  }
}

async function sumOf(blob: Blob): Promise<number> {
  return crc32(new Uint8Array(await blob.arrayBuffer()));
}
