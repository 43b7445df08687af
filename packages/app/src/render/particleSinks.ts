import {
  aliveOf,
  csvOf,
  particleTable,
  particleTables,
  plyOf,
  UsdExport,
  usdLayout,
  type UsdSource,
} from '@vast-swarm/core';
import type { CpuEngine } from '@vast-swarm/cpu';
import type { Job } from './messages';
import { endingOf, numbered } from './settings';
import type { Sink } from './sink';
import { Zipped } from './zipped';

const NOT_DRAWN = { drawn: false, light: false };

/** What an engine holds of a swarm, by the names of the columns. */
async function bySlot(engine: CpuEngine, swarm: string) {
  const { red: r, green: g, blue: b, opacity: a, ...rest } = await engine.particles(swarm);
  return { ...rest, r, g, b, a };
}

/** The swarms whose particles are asked for. */
function swarmsOf({ piece, swarm }: Job): { id: string; name: string }[] {
  return piece.swarms.filter(({ id, on }) => on && (swarm === '' || id === swarm));
}

/** Particles of all frames in one scene. */
export function usdSink(job: Job): Sink {
  const { piece, first, last } = job;
  let usd: UsdExport;
  const samples = new Map<string, Blob[]>();
  return {
    wants: NOT_DRAWN,
    begin(plan) {
      usd = new UsdExport(
        plan,
        swarmsOf(job).map((s) => s.id),
      );
    },
    async add(engine) {
      const source: UsdSource = {
        table: async (id) => particleTable(await bySlot(engine, id), engine.born(id)),
        instances: (id, body) => engine.instances(id, body),
      };
      for await (const [prim, attribute, bytes] of usd.frame(engine.frame, source)) {
        const key = `${String(prim)} ${attribute}`;
        const parts = samples.get(key) ?? [];
        samples.set(key, parts);
        // A blob may leave memory.
        parts.push(new Blob([bytes]));
      }
    },
    finish() {
      const parts = [...usdLayout(usd.scene(piece.name, first, last))].flatMap<BlobPart>((part) =>
        typeof part === 'string'
          ? [part]
          : (samples.get(`${String(part.prim)} ${part.attribute}`) ?? []),
      );
      return Promise.resolve(new Blob(parts, { type: 'text/plain' }));
    },
    cancel: () => Promise.resolve(),
  };
}

/** A table for each swarm and frame. */
export function tableSink(job: Job): Sink {
  const zip = new Zipped();
  const swarms = swarmsOf(job);
  return {
    wants: NOT_DRAWN,
    async add(engine) {
      for (const { id, name } of swarms) {
        const by = await bySlot(engine, id);
        const born = engine.born(id);
        const tables = particleTables(by, born);
        const folder = swarms.length > 1 ? `${name.replace(/[/\\:*?"<>|]/g, '_')}/` : '';
        const file = `${folder}${numbered(job.name, engine.frame)}.${endingOf(job)}`;
        zip.put(file, job.format === 'ply' ? plyOf(tables, aliveOf(by, born)) : csvOf(tables));
      }
    },
    finish: () => Promise.resolve(zip.finish(job.piece)),
    cancel: () => Promise.resolve(),
  };
}
