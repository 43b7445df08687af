import { farmWorkerSchema, type FarmWorker } from '@vast-swarm/core/formats';
import { Queue } from 'bullmq';
import type { Redis } from 'ioredis';
import { z } from 'zod';
import { jsonIn } from '../jsonIn';
import { BUILD_HASH } from '../version';
import { keys, PREFIX, QUEUE } from './messages';
import { connect } from './redis';
import { Seal } from './seal';

/** Milliseconds for which a look at the workers is good. */
const FRESH = 500;

const refusedSchema = z.object({ name: z.string().max(200), why: z.string().max(1000) });

/** The server's end of a queue on Redis, and who works at it. */
export class Farm {
  private looked = { at: -FRESH, workers: [] as FarmWorker[] };
  private readonly told = new Set<string>();

  private constructor(
    readonly redis: Redis,
    readonly queue: Queue,
    readonly seal: Seal,
    readonly tell: (text: string) => void,
  ) {}

  /**
   * @param key the file of the key that workers share
   * @throws Refused where the queue is not there, or the key is none
   */
  static async open(
    address: string,
    key: string | undefined,
    tell: (text: string) => void,
  ): Promise<Farm> {
    const seal = await Seal.from(key);
    const redis = await connect(address, tell);
    await redis.set(keys.build, BUILD_HASH);
    const queue = new Queue(QUEUE, { connection: redis.duplicate(), prefix: PREFIX });
    queue.on('error', () => undefined);
    return new Farm(redis, queue, seal, tell);
  }

  /** Workers that have given a sign of late, by name. */
  async workers(): Promise<FarmWorker[]> {
    const now = performance.now();
    if (now - this.looked.at >= FRESH) {
      this.looked = { at: now, workers: await this.look() };
      await this.tellRefused();
    }
    return this.looked.workers;
  }

  private async look(): Promise<FarmWorker[]> {
    const found = await this.valuesOf(keys.worker('*'), farmWorkerSchema);
    return found
      .filter((w) => w.program === BUILD_HASH)
      .sort((a, b) => a.name.localeCompare(b.name) || a.id.localeCompare(b.id));
  }

  /** What stands under the names of a pattern; what is something else is left aside. */
  private async valuesOf<T>(pattern: string, schema: z.ZodType<T>): Promise<T[]> {
    const names: string[] = [];
    for await (const some of this.redis.scanStream({ match: pattern, count: 1000 })) {
      names.push(...(some as string[]));
    }
    const values = names.length > 0 ? await this.redis.mget(names) : [];
    return values.flatMap((text) => {
      const read = schema.safeParse(jsonIn(text));
      return read.success ? [read.data] : [];
    });
  }

  private async tellRefused(): Promise<void> {
    for (const { name, why } of await this.valuesOf(keys.refused('*'), refusedSchema)) {
      const text = `Worker ${name} was refused: ${why}.`;
      if (this.told.has(text)) continue;
      this.told.add(text);
      this.tell(text);
    }
  }
}
