import { CONTROL_BYTES } from './control';

const PAGE = 65536;
const ALIGN = 64;

interface Region {
  address: number;
  bytes: number;
}

/** More memory was asked for than the engine may have. */
export class MemoryFull extends Error {
  override readonly name = 'MemoryFull';
}

/** Named buffers in the shared memory, of so many pages at most. They grow when more is asked for, and keep nothing then. */
export class Arena {
  private readonly used = new Map<string, Region>();
  private free: Region[];

  constructor(
    private readonly memory: WebAssembly.Memory,
    private readonly most: number,
  ) {
    const bytes = memory.buffer.byteLength - CONTROL_BYTES;
    this.free = [{ address: CONTROL_BYTES, bytes }];
  }

  /** Byte address of the buffer `name` with room for `bytes`. */
  buffer(name: string, bytes: number): number {
    const known = this.used.get(name);
    if (known && known.bytes >= bytes) return known.address;
    if (known) this.release(name);
    const region = this.take(Math.ceil(bytes / ALIGN) * ALIGN);
    this.used.set(name, region);
    return region.address;
  }

  address(name: string): number {
    const region = this.used.get(name);
    if (!region) throw new Error(`engine: there is no buffer '${name}'`);
    return region.address;
  }

  rename(from: string, to: string): void {
    this.release(to);
    this.used.set(to, this.used.get(from)!);
    this.used.delete(from);
  }

  release(name: string): void {
    const region = this.used.get(name);
    if (!region) return;
    this.used.delete(name);
    this.free.push(region);
    this.join();
  }

  /** Names of buffers in use. */
  names(): string[] {
    return [...this.used.keys()];
  }

  /** Bytes in use. */
  get bytes(): number {
    return [...this.used.values()].reduce((sum, r) => sum + r.bytes, 0);
  }

  private take(bytes: number): Region {
    let best: Region | undefined;
    for (const r of this.free) if (r.bytes >= bytes && (!best || r.bytes < best.bytes)) best = r;
    best ??= this.grow(bytes);
    this.free = this.free.filter((r) => r !== best);
    if (best.bytes > bytes) {
      this.free.push({ address: best.address + bytes, bytes: best.bytes - bytes });
    }
    return { address: best.address, bytes };
  }

  private grow(bytes: number): Region {
    const address = this.memory.buffer.byteLength;
    const pages = Math.ceil(bytes / PAGE);
    if (address / PAGE + pages > this.most) {
      const wanted = Math.round(bytes / 2 ** 20);
      throw new MemoryFull(
        `The engine's memory of ${String(this.most / 16)} MB is full: ${String(wanted)} MB more are wanted. Lower the number of particles, their size or the frame size.`,
      );
    }
    this.memory.grow(pages);
    const region = { address, bytes: pages * PAGE };
    this.free.push(region);
    return region;
  }

  /** Makes neighbours one. */
  private join(): void {
    this.free.sort((a, b) => a.address - b.address);
    const joined: Region[] = [];
    for (const r of this.free) {
      const last = joined.at(-1);
      if (last && last.address + last.bytes === r.address) last.bytes += r.bytes;
      else joined.push({ ...r });
    }
    this.free = joined;
  }
}
