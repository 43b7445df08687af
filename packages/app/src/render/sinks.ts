import { numbered } from '@vast-swarm/core';
import { needsLight, stillBytes, type CpuEngine, type Frame } from '@vast-swarm/cpu';
import type { Job } from './messages';
import { tableSink, usdSink } from './particleSinks';
import { endingOf } from './settings';
import type { Sink } from './sink';
import { videoSink } from './videoSink';
import { Zipped } from './zipped';

const nameOf = (job: Job, frame: number): string => `${numbered(job.name, frame)}.${endingOf(job)}`;

function bytesOf({ still, alpha, piece }: Job, engine: CpuEngine, drawn: Frame | null) {
  return stillBytes({ format: still, alpha, rate: piece.frame.rate }, engine, drawn!);
}

const wantsOf = ({ still, alpha }: Job): Sink['wants'] => ({
  drawn: true,
  light: needsLight({ format: still, alpha }),
});

/** Numbered frames and the piece itself. */
function zipSink(job: Job): Sink {
  const zip = new Zipped();
  return {
    wants: wantsOf(job),
    async add(engine, drawn) {
      zip.put(nameOf(job, engine.frame), [await bytesOf(job, engine, drawn)]);
    },
    finish: () => Promise.resolve(zip.finish(job.piece)),
    cancel: () => Promise.resolve(),
  };
}

function folderSink(job: Job): Sink {
  const { folder } = job;
  if (!folder) throw new Error('No folder was chosen.');
  return {
    wants: wantsOf(job),
    async add(engine, drawn) {
      const file = await folder.getFileHandle(nameOf(job, engine.frame), { create: true });
      // A writable is swapped in when it closes: a frame is there whole or not at all.
      const writable = await file.createWritable();
      await writable.write(await bytesOf(job, engine, drawn));
      await writable.close();
    },
    finish: () => Promise.resolve(null),
    cancel: () => Promise.resolve(),
  };
}

export async function openSink(job: Job): Promise<Sink> {
  switch (job.format) {
    case 'zip':
      return zipSink(job);
    case 'folder':
      return folderSink(job);
    case 'mp4':
    case 'webm':
      return videoSink(job);
    case 'usda':
      return usdSink(job);
    case 'ply':
    case 'csv':
      return tableSink(job);
  }
}
