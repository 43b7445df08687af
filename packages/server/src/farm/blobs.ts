import type { Redis } from 'ioredis';
import { hashOf } from '../hashOf';
import { keys, STAYS } from './messages';

/** Bytes by their hash: pieces and what they use travel once, and are what they were or not there. */

/** Bytes of one value: Redis takes up to 512 MB. */
const PART = 64 * 2 ** 20;

/** Puts bytes under a name; the first key is there when all of them are. */
export async function putParts(
  redis: Redis,
  key: string,
  bytes: Uint8Array,
  seconds: number,
): Promise<void> {
  const count = Math.max(1, Math.ceil(bytes.length / PART));
  for (let i = 0; i < count; i++) {
    const part = Buffer.from(bytes.subarray(i * PART, (i + 1) * PART));
    await redis.set(`${key}:${String(i)}`, part, 'EX', seconds);
  }
  await redis.set(key, count, 'EX', seconds);
}

/** The bytes under a name; null where they are not there, or not all of them. */
export async function partsOf(redis: Redis, key: string): Promise<Buffer | null> {
  const count = Number(await redis.get(key));
  if (!(count > 0)) return null;
  const parts: Buffer[] = [];
  for (let i = 0; i < count; i++) {
    const part = await redis.getBuffer(`${key}:${String(i)}`);
    if (!part) return null;
    parts.push(part);
  }
  return Buffer.concat(parts);
}

export async function dropParts(redis: Redis, key: string): Promise<void> {
  const count = Number(await redis.get(key));
  await redis.del(key, ...Array.from({ length: count }, (_, i) => `${key}:${String(i)}`));
}

export async function putBlob(redis: Redis, hash: string, bytes: Uint8Array): Promise<void> {
  await putParts(redis, keys.blob(hash), bytes, STAYS.blob);
}

/** @throws Error where it is not there, or is something else */
export async function blobOf(redis: Redis, hash: string): Promise<Buffer> {
  const bytes = await partsOf(redis, keys.blob(hash));
  if (!bytes) throw new Error('what the render is of is not in the queue any more');
  if (hashOf(bytes) !== hash) throw new Error('what the render is of came damaged');
  return bytes;
}
