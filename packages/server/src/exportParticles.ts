import { framesOf } from './frames';
import { load, withStock } from './load';
import { Refused } from './refused';
import { swarmOf, tableForm, writeTables, type SimulateOptions } from './simulate';
import { writeUsd } from './usd';

interface ExportOptions extends Omit<SimulateOptions, 'swarm'> {
  /** All that are on where none is named. */
  swarm: string[];
}

/** Writes particles for other programs: as a scene with all frames, or a table for each. */
export async function exportParticles(file: string, options: ExportOptions): Promise<void> {
  const { out } = options;
  const { piece, files } = await withStock(file, await load(file, options));
  const named = options.swarm.map((name) => swarmOf(file, piece, name));
  const swarms = named.length > 0 ? named : piece.swarms.filter((s) => s.on);
  if (swarms.length === 0) throw new Refused(`${file}: there is no swarm that is on.`);
  if (/\.usda$/.test(out)) {
    const [first, last] = framesOf(piece, options.frames);
    return writeUsd({ ...options, piece, files, swarms: swarms.map((s) => s.id), first, last });
  }
  if (!tableForm(out)) {
    throw new Refused(`${out}: particles are written to .usda, .ply or .csv`);
  }
  if (swarms.length > 1) {
    const names = swarms.map((s) => `'${s.name}'`).join(', ');
    throw new Refused(
      `${out}: a table has one swarm; name it by --swarm, of ${names}. A .usda file has all.`,
    );
  }
  return writeTables(piece, files, swarms[0]!, options);
}
