import { createHmac, timingSafeEqual } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Refused } from '../refused';
import { whyNot } from '../writeWhole';

/** Fewest letters of a key. */
const FEWEST = 16;
/** Letters of a seal. */
const LETTERS = 64;
const FOREIGN = 'it is not sealed with the key of this one; server and workers take the same --key';

/** A message in the queue, as text, with the seal of who sent it. */
export interface Sealed {
  text: string;
  seal: string;
}

/**
 * Seals what goes through the queue with a key that server and workers share (HMAC-SHA256, RFC 2104), so that nobody else
 * who can write to the queue gives them tasks, frames or states. Without a key the seal tells damage only.
 */
export class Seal {
  constructor(private readonly key = '') {}

  /**
   * With the key that stands in a file.
   * @throws Refused where it cannot be read, or is short
   */
  static async from(file: string | undefined): Promise<Seal> {
    if (file === undefined) return new Seal();
    const text = await readFile(file, 'utf8').catch((error: unknown) => {
      throw new Refused(`--key ${file}: cannot be read: ${whyNot(error)}.`);
    });
    const key = text.trim();
    if (key.length >= FEWEST) return new Seal(key);
    throw new Refused(
      `--key ${file}: a key has ${String(FEWEST)} letters or more; 'openssl rand -hex 32 > ${file}' makes one.`,
    );
  }

  /** @param about what the bytes are for: the seal holds for nothing else */
  of(about: string, bytes: Uint8Array | string): string {
    return createHmac('sha256', this.key).update(`${about}\n`).update(bytes).digest('hex');
  }

  private holds(about: string, bytes: Uint8Array | string, seal: string): boolean {
    const [wanted, given] = [this.of(about, bytes), seal].map((s) => Buffer.from(s));
    return wanted!.length === given!.length && timingSafeEqual(wanted!, given!);
  }

  /** A message that can be put into the queue. */
  sealed(about: string, content: unknown): Sealed {
    const text = JSON.stringify(content);
    return { text, seal: this.of(about, text) };
  }

  /** Bytes with their seal in front of them. */
  sealedBytes(about: string, bytes: Uint8Array): Buffer {
    return Buffer.concat([Buffer.from(this.of(about, bytes)), bytes]);
  }

  /** The bytes behind their seal; null where there are none, or they are not sealed for this with the same key. */
  openedBytes(about: string, given: Buffer | null): Buffer | null {
    if (!given) return null;
    const [seal, bytes] = [given.subarray(0, LETTERS).toString(), given.subarray(LETTERS)];
    return this.holds(about, bytes, seal) ? bytes : null;
  }

  /** @throws Error where it is no message, or not sealed for this with the same key */
  opened(about: string, given: unknown): unknown {
    const { text, seal } = (given ?? {}) as Partial<Record<keyof Sealed, unknown>>;
    if (typeof text !== 'string' || typeof seal !== 'string' || !this.holds(about, text, seal))
      throw new Error(FOREIGN);
    return JSON.parse(text);
  }
}
