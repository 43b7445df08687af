import { CpuEngine, packSnapshot, unpackSnapshot } from '@vast-swarm/cpu';
import { numbered } from '@vast-swarm/core/formats';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { lookInto } from '../look';
import { makeFrames, prepare, type Prepared } from '../render';
import { deliver } from '../deliver/delivery';
import { openDelivery } from '../deliver/open';
import { makeFolder, writeWhole } from '../writeWhole';
import { argumentsIn, type Ask, type Told } from './frameProcess';

/**
 * The process of a worker in which frames are made: one render after the other, each made ready once. It is told what to do
 * by its parent, and writes files; where it dies, the worker begins another one.
 */
export async function serveChunks(threads: number): Promise<void> {
  const engine = await CpuEngine.create({ threads, large: true });
  let ready: { folder: string; prepared: Prepared } | null = null;
  // Whoever asked may be gone: then nobody is told, and this process ends.
  const tell = (told: Told): void => {
    if (process.connected) process.send!(told, () => undefined);
  };
  const work = async (ask: Ask): Promise<void> => {
    if (ready?.folder !== ask.folder) {
      const prepared = await prepare(
        join(ask.folder, 'piece.swarm.json'),
        argumentsIn(ask, threads),
      );
      ready = { folder: ask.folder, prepared };
      engine.setPlan(prepared.plan);
    }
    const { prepared } = ready;
    tell({ about: { remembers: prepared.plan.finish.remembers } });
    if (!ask.resumes) await begin(engine, prepared, ask.state);
    if (ask.task.task === 'states') await leaveStates(engine, ask.folder, ask.task.at, tell);
    else await frames(engine, prepared, ask, ask.task, tell);
  };
  process.on('message', (ask: Ask) => {
    work(ask).then(
      () => {
        tell({ done: true });
      },
      (error: unknown) => {
        ready = null;
        tell({ problem: error instanceof Error ? error.message : String(error), at: engine.frame });
      },
    );
  });
  // Nobody is there any more who would want something.
  process.on('disconnect', () => process.exit());
  tell({ ready: true });
}

/** A state has what the finish remembers of the frame before it: its own is drawn once more. */
async function begin(
  engine: CpuEngine,
  { plan, asked }: Prepared,
  state: string | null,
): Promise<void> {
  if (state === null) {
    engine.reset();
    return;
  }
  engine.restore(unpackSnapshot(await readFile(state)));
  if (!plan.finish.remembers || engine.frame < -plan.runIn) return;
  await engine.ready();
  engine.draw(asked.width, asked.height, asked.oversample);
}

async function leaveState(
  engine: CpuEngine,
  folder: string,
  tell: (told: Told) => void,
): Promise<void> {
  const states = join(folder, 'states');
  await makeFolder(states);
  const path = join(states, `${String(engine.frame)}.state`);
  await writeWhole(path, packSnapshot(engine.save()));
  tell({ state: engine.frame, path });
}

async function leaveStates(
  engine: CpuEngine,
  folder: string,
  at: readonly number[],
  tell: (told: Told) => void,
): Promise<void> {
  for (const frame of at) {
    while (engine.frame < frame) {
      await engine.ready();
      engine.step();
    }
    await leaveState(engine, folder, tell);
  }
}

async function frames(
  engine: CpuEngine,
  prepared: Prepared,
  { folder }: Ask,
  { wanted, last, leaves }: Extract<Ask['task'], { task: 'frames' }>,
  tell: (told: Told) => void,
): Promise<void> {
  const { target, asked, work } = prepared;
  if (target.kind !== 'frames') throw new Error('a video is made in one go');
  const [first = last] = wanted;
  const delivery = await openDelivery(target, asked, { ...work, first, last });
  await deliver(delivery, async () => {
    await makeFrames(engine, prepared, wanted, {
      delivery,
      until: leaves ? last : -Infinity,
      drawn: lookInto(join(folder, 'look.png')),
      delivered: (frame) => {
        tell({ frame, path: join(folder, 'made', numbered(target.pattern, frame)) });
      },
    });
    if (leaves) await leaveState(engine, folder, tell);
  });
}
