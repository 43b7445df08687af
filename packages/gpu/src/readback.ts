import type { SwarmPlan } from '@vast-swarm/core/plan';
import { listGroups } from './lists';
import { COUNT_ALIVE } from './shaders';
import type { SwarmMemory } from './swarmMemory';
import { Work, type Pipelines } from './work';

/** Bytes of a buffer, brought over from the card. */
export async function readBack(
  device: GPUDevice,
  pipelines: Pipelines,
  from: GPUBuffer,
  at: number,
  bytes: number,
): Promise<ArrayBuffer> {
  const usage = GPUBufferUsage.COPY_DST | GPUBufferUsage.MAP_READ;
  const back = device.createBuffer({ size: bytes, usage });
  const work = new Work(pipelines);
  work.copy(from, at, back, 0, bytes);
  work.submit();
  await back.mapAsync(GPUMapMode.READ);
  const data = back.getMappedRange().slice(0);
  back.destroy();
  return data;
}

/** Particles alive by swarm; null where the device went away meanwhile. */
export async function countAlive(
  device: GPUDevice,
  pipelines: Pipelines,
  swarms: readonly SwarmPlan[],
  memoryOf: (id: string) => SwarmMemory,
): Promise<Record<string, number> | null> {
  const size = 4 * Math.max(4, swarms.length);
  const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC;
  const counts = device.createBuffer({ size, usage });
  const work = new Work(pipelines);
  swarms.forEach(({ id, capacity }, i) => {
    const { buffer, address } = memoryOf(id);
    const words = [address('age'), address('life'), capacity, i];
    work.run(COUNT_ALIVE, 'main', buffer, words, listGroups(capacity), [{ buffer: counts }]);
  });
  work.submit();
  try {
    const values = new Uint32Array(await readBack(device, pipelines, counts, 0, size));
    return Object.fromEntries(swarms.map(({ id }, i) => [id, values[i]!]));
  } catch {
    // The next frame says so.
    return null;
  } finally {
    counts.destroy();
  }
}
