import { GpuEngine } from '@vast-swarm/gpu';
import type { Result } from '../inPage';
import type { Contest } from './contest';
import { discs, frame } from './discs';
import { catchDevice, BareDevice } from './bareDevice';
import { links } from './links';
import { motion } from './motion';
import { sorted } from './sorted';
import { trails } from './trails';

const CONTESTS: readonly (() => Contest)[] = [motion, discs, frame, sorted, trails, links];
const RUNS = 12;

async function milliseconds(device: GPUDevice, run: () => unknown): Promise<number> {
  const started = performance.now();
  await run();
  await device.queue.onSubmittedWorkDone();
  return performance.now() - started;
}

/** In turn, so that a busy moment of the machine falls on both. */
async function contest({ name, plan, after, ready }: Contest): Promise<Result> {
  const deviceOf = catchDevice();
  const engine = await GpuEngine.open({ allowSoftware: true });
  if (typeof engine === 'string') throw new Error(`bench: no card (${engine})`);
  engine.setPlan(plan);
  engine.reset();
  while (engine.frame < after) engine.step();
  const device = deviceOf();
  const { ours, byHand, agree } = await ready(engine, new BareDevice(device));
  // The first run of each compiles.
  await byHand();
  await ours();
  await agree();
  const least = { ours: Infinity, theirs: Infinity };
  for (let i = 0; i < RUNS; i++) {
    least.theirs = Math.min(least.theirs, await milliseconds(device, byHand));
    least.ours = Math.min(least.ours, await milliseconds(device, ours));
  }
  return { name, ...least };
}

/** Gives the result of the contest of that number, or null where there is none. */
self.onmessage = async ({ data }: MessageEvent<number>) => {
  try {
    const chosen = CONTESTS[data]?.();
    postMessage(chosen ? await contest(chosen) : null);
  } catch (error) {
    postMessage({ error: String(error) } satisfies Result);
  }
};
