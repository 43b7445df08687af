import { compilePiece, particleTable, toCsv, toPly } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import { load, loadStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { numbered, writeWhole } from './writeWhole';

interface SimulateOptions extends WorkOptions {
  frames?: [number, number];
  swarm: string;
  out: string;
}

export async function simulate(file: string, options: SimulateOptions): Promise<void> {
  const write = options.out.endsWith('.ply') ? toPly : options.out.endsWith('.csv') ? toCsv : null;
  if (!write) throw new Refused(`${options.out}: particles are written to .ply or .csv`);
  const piece = await load(file, options);
  const swarm = piece.swarms.find((s) => s.name === options.swarm || s.id === options.swarm);
  if (!swarm) {
    const names = piece.swarms.map((s) => `'${s.name}'`).join(', ');
    throw new Refused(
      `${file}: there is no swarm '${options.swarm}'; there are ${names || 'none'}`,
    );
  }
  if (!swarm.on) throw new Refused(`${file}: the swarm '${swarm.name}' is switched off`);
  const [first, last] = options.frames ?? [0, piece.frame.length - 1];
  const everyFrame = numbered(options.out, 0) !== options.out;
  const engine = await CpuEngine.create({ threads: options.threads });
  try {
    engine.setPlan(compilePiece(piece, { files: await loadStock(file, piece) }));
    await mkdir(dirname(options.out), { recursive: true });
    const progress = new Progress('frame', last + 1);
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      if (engine.frame >= 0) progress.at(engine.frame + 1);
      const wanted = everyFrame ? engine.frame >= first : engine.frame === last;
      if (!wanted) continue;
      const { red: r, green, blue: b, opacity: a, ...rest } = await engine.particles(swarm.id);
      const table = particleTable({ ...rest, r, g: green, b, a }, engine.born(swarm.id));
      await writeWhole(numbered(options.out, engine.frame), write(table));
    }
  } finally {
    engine.close();
  }
}
