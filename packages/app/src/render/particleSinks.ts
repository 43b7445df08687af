import { numbered, particleFile, UsdExport, usdLayout } from '@vast-swarm/core/formats';
import type { Job } from './messages';
import { endingOf, NOT_IN_NAMES } from '../formats/settings';
import type { Sink } from './sink';
import { Zipped } from './zipped';

const NOT_DRAWN = { drawn: false, light: false };

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
      for await (const [prim, attribute, bytes] of usd.frame(engine.frame, engine)) {
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
  const form = job.format === 'ply' ? 'ply' : 'csv';
  return {
    wants: NOT_DRAWN,
    async add(engine) {
      for (const { id, name } of swarms) {
        const folder =
          swarms.length > 1 ? `${name.replaceAll(new RegExp(NOT_IN_NAMES, 'g'), '_')}/` : '';
        const file = `${folder}${numbered(job.name, engine.frame)}.${endingOf(job)}`;
        zip.put(file, particleFile(form, await engine.particles(id), engine.born(id)));
      }
    },
    finish: () => Promise.resolve(zip.finish(job.piece)),
    cancel: () => Promise.resolve(),
  };
}
