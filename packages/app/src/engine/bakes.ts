import { bakeOffsets, type Bake } from '@vast-swarm/core/plan';
import type { BakeFile } from './messages';

/** Stored motion in the browser's own file system, which a worker reads and writes without waiting. */

/** Of a worker's own; the page's types do not know it. */
interface Access {
  read(to: Float32Array, options: { at: number }): number;
  write(from: Uint8Array, options: { at: number }): number;
  truncate(size: number): void;
  flush(): void;
  close(): void;
}

function accessTo(handle: FileSystemFileHandle): Promise<Access> {
  const file = handle as FileSystemFileHandle & { createSyncAccessHandle(): Promise<Access> };
  return file.createSyncAccessHandle();
}

async function folder(): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle('bakes', { create: true });
}

/** A bake that is open for reading. */
export class OpenBake implements Bake {
  readonly name: string;
  readonly first: number;
  readonly last: number;
  readonly capacity: number;
  readonly state: readonly string[];
  private readonly offsets: number[];

  private constructor(
    private readonly file: BakeFile,
    private readonly access: Access,
  ) {
    ({ file: this.name, first: this.first, last: this.last } = file);
    ({ capacity: this.capacity, state: this.state } = file);
    this.offsets = bakeOffsets(file.born, file.capacity, file.state.length);
  }

  /** Null where the file is gone, as when the browser's storage was cleared. */
  static async open(file: BakeFile): Promise<OpenBake | null> {
    try {
      const handle = await (await folder()).getFileHandle(file.file);
      const access = await accessTo(handle);
      return new OpenBake(file, access);
    } catch {
      return null;
    }
  }

  bornAt(frame: number): number {
    return this.file.born[Math.min(frame, this.last) - this.first] ?? 0;
  }

  read(frame: number): Float32Array[] {
    const at = this.offsets[frame - this.first]!;
    const bytes = new Float32Array((this.offsets[frame - this.first + 1]! - at) / 4);
    this.access.read(bytes, { at });
    const count = bytes.length / Math.max(1, this.state.length);
    return this.state.map((_, i) => bytes.subarray(i * count, (i + 1) * count));
  }

  close(): void {
    this.access.close();
  }
}

/** Bytes that are written at once: each write asks the browser, which takes milliseconds. */
const CHUNK = 4 * 2 ** 20;

/** A bake that is being written, frame after frame; whole after `end`. */
export class BakeWriter {
  readonly born: number[] = [];
  private readonly chunk = new Uint8Array(CHUNK);
  private filled = 0;
  private written = 0;

  private constructor(private readonly access: Access) {}

  static async create(name: string): Promise<BakeWriter> {
    const handle = await (await folder()).getFileHandle(name, { create: true });
    const access = await accessTo(handle);
    access.truncate(0);
    return new BakeWriter(access);
  }

  /** @throws Error where the browser's storage is full */
  add(born: number, arrays: readonly Float32Array[]): void {
    for (const array of arrays) {
      let rest = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
      while (rest.length > 0) {
        const part = rest.subarray(0, CHUNK - this.filled);
        this.chunk.set(part, this.filled);
        this.filled += part.length;
        rest = rest.subarray(part.length);
        if (this.filled === CHUNK) this.write();
      }
    }
    this.born.push(born);
  }

  get bytes(): number {
    return this.written + this.filled;
  }

  private write(): void {
    const part = this.chunk.subarray(0, this.filled);
    if (this.access.write(part, { at: this.written }) < part.length)
      throw new Error("The browser's storage is full: the bake was stopped.");
    this.written += part.length;
    this.filled = 0;
  }

  /** Writes what is left. @throws Error where the browser's storage is full */
  end(): void {
    this.write();
    this.access.flush();
  }

  close(): void {
    this.access.close();
  }
}

export async function removeBakeFile(name: string): Promise<void> {
  await (await folder()).removeEntry(name).catch(() => undefined);
}
