import { farmWorkerSchema, type FarmWorker } from '@vast-swarm/core/formats';
import { Queue } from 'bullmq';
import type { Redis } from 'ioredis';
import { BUILD_HASH } from '../version';
import { keys, PREFIX, QUEUE } from './messages';
import { connect } from './redis';

/** Milliseconds for which a look at the workers is good. */
const FRESH = 500;

/** The server's end of a queue on Redis, and who works at it. */
export class Farm {
  private looked = { at: -FRESH, workers: [] as FarmWorker[] };
  private readonly told = new Set<string>();

  private constructor(
    readonly redis: Redis,
    readonly queue: Queue,
    private readonly tell: (text: string) => void,
  ) {}

  /** @throws Refused where the queue is not there */
  static async open(address: string, tell: (text: string) => void): Promise<Farm> {
    const redis = await connect(address, tell);
    await redis.set(keys.build, BUILD_HASH);
    const queue = new Queue(QUEUE, { connection: redis.duplicate(), prefix: PREFIX });
    queue.on('error', () => undefined);
    return new Farm(redis, queue, tell);
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
    const found = (await this.valuesOf(keys.worker('*'))).map((text) =>
      farmWorkerSchema.parse(JSON.parse(text)),
    );
    return found
      .filter((w) => w.program === BUILD_HASH)
      .sort((a, b) => a.name.localeCompare(b.name) || a.id.localeCompare(b.id));
  }

  private async valuesOf(pattern: string): Promise<string[]> {
    const names: string[] = [];
    for await (const some of this.redis.scanStream({ match: pattern, count: 1000 })) {
      names.push(...(some as string[]));
    }
    const values = names.length > 0 ? await this.redis.mget(names) : [];
    return values.filter((v) => v !== null);
  }

  private async tellRefused(): Promise<void> {
    for (const text of await this.valuesOf(keys.refused('*'))) {
      if (this.told.has(text)) continue;
      this.told.add(text);
      const { name, why } = JSON.parse(text) as { name: string; why: string };
      this.tell(`Worker ${name} was refused: ${why}.`);
    }
  }
}
