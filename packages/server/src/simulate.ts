import { copyCount } from '@vast-swarm/core/plan';
import { numbered, particleFile } from '@vast-swarm/core/formats';
import type { Piece, Swarm } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { dirname } from 'node:path';
import { compiled } from './compiled';
import { framesOf } from './frames';
import { load, withStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { tell } from './say';
import { makeFolder, writeWhole } from './writeWhole';

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
  if (!tableForm(options.out)) {
    throw new Refused(`${options.out}: particles are written to .ply or .csv`);
  }
  const { piece, files } = await withStock(file, await load(file, options));
  await writeTables(piece, files, swarmOf(file, piece, options.swarm), options);
}

/** The form of a table by its name; undefined where it is none. */
export function tableForm(name: string): 'ply' | 'csv' | undefined {
  return /\.(ply|csv)$/.exec(name)?.[1] as 'ply' | 'csv' | undefined;
}

/** A swarm's particles in a table at the last frame, or with a place for the number in its name at each. */
export async function writeTables(
  piece: Piece,
  files: StockFiles,
  swarm: Swarm,
  options: Omit<SimulateOptions, 'swarm'>,
): Promise<void> {
  const { out } = options;
  const [first, last] = framesOf(piece, options.frames);
  const repeats = copyCount(swarm.copies);
  if (repeats > 1) {
    tell(
      `note: '${swarm.name}' is drawn ${String(repeats)} times; its particles are written once, without the copies.`,
    );
  }
  await makeFolder(dirname(out));
  const everyFrame = numbered(out, 0) !== out;
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
      const { id } = swarm;
      const data = particleFile(tableForm(out)!, await engine.particles(id), engine.born(id));
      await writeWhole(numbered(out, engine.frame), data);
    }
  } finally {
    engine.close();
  }
}
