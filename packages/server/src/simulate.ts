import {
  aliveOf,
  copyCount,
  csvOf,
  particleTables,
  plyOf,
  type Piece,
  type Swarm,
} from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import { dirname } from 'node:path';
import { compiled } from './compiled';
import { framesOf } from './frames';
import { load, withStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { tell } from './say';
import { makeFolder, numbered, writeWhole } from './writeWhole';

export interface SimulateOptions extends WorkOptions {
  frames?: [number, number];
  swarm: string;
  json?: boolean;
  out: string;
}

/** @throws Refused where there is no swarm of that name or id that is on */
export function swarmOf(file: string, { swarms }: Piece, name: string): Swarm {
  const swarm = swarms.find((s) => s.name === name || s.id === name);
  if (!swarm) {
    const names = swarms.map((s) => `'${s.name}'`).join(', ');
    throw new Refused(`${file}: there is no swarm '${name}'; there are ${names || 'none'}`);
  }
  if (!swarm.on) throw new Refused(`${file}: the swarm '${swarm.name}' is switched off`);
  return swarm;
}

export async function simulate(file: string, options: SimulateOptions): Promise<void> {
  const form = /\.(ply|csv)$/.exec(options.out)?.[1];
  if (!form) throw new Refused(`${options.out}: particles are written to .ply or .csv`);
  const { piece, files } = await withStock(file, await load(file, options));
  const swarm = swarmOf(file, piece, options.swarm);
  const [first, last] = framesOf(piece, options.frames);
  const repeats = copyCount(swarm.copies);
  if (repeats > 1) {
    tell(
      `note: '${swarm.name}' is drawn ${String(repeats)} times; its particles are written once, without the copies.`,
    );
  }
  await makeFolder(dirname(options.out));
  const everyFrame = numbered(options.out, 0) !== options.out;
  const engine = await CpuEngine.create({ threads: options.threads });
  try {
    engine.setPlan(compiled(piece, { files }));
    const progress = new Progress('frame', last + 1, options.json);
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      if (engine.frame >= 0) progress.one(engine.frame);
      const wanted = everyFrame ? engine.frame >= first : engine.frame === last;
      if (!wanted) continue;
      const { red: r, green, blue: b, opacity: a, ...rest } = await engine.particles(swarm.id);
      const by = { ...rest, r, g: green, b, a };
      const born = engine.born(swarm.id);
      const tables = particleTables(by, born);
      const data = form === 'ply' ? plyOf(tables, aliveOf(by, born)) : csvOf(tables);
      await writeWhole(numbered(options.out, engine.frame), data);
    }
  } finally {
    engine.close();
  }
}
