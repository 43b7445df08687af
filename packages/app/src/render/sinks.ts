import { numbered } from '@vast-swarm/core/formats';
import { needsLight, stillBytes, type Frame } from '@vast-swarm/core/formats';
import { type CpuEngine } from '@vast-swarm/cpu';
import { KeptFrames } from './keptFrames';
import type { Job } from './messages';
import { tableSink, usdSink } from './particleSinks';
import { endingOf } from '../formats/settings';
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
async function zipSink(job: Job): Promise<Sink> {
  const kept = await KeptFrames.of(job.id);
  return {
    wants: wantsOf(job),
    has: (frame) => kept.has(frame),
    async add(engine, drawn) {
      await kept.put(engine.frame, await bytesOf(job, engine, drawn));
    },
    async finish() {
      const zip = new Zipped();
      for (let frame = job.first; frame <= job.last; frame++) {
        zip.put(nameOf(job, frame), [await kept.bytes(frame)]);
      }
      return zip.finish(job.piece);
    },
    cancel: () => Promise.resolve(),
  };
}

/** Bytes of a file in a folder; null where there is none. */
async function sizeIn(folder: FileSystemDirectoryHandle, name: string): Promise<number | null> {
  const handle = await folder.getFileHandle(name).catch(() => null);
  return handle && (await handle.getFile()).size;
}

async function folderSink(job: Job): Promise<Sink> {
  const { folder } = job;
  if (!folder) throw new Error('No folder was chosen.');
  const kept = await KeptFrames.of(job.id, (frame) => sizeIn(folder, nameOf(job, frame)));
  return {
    wants: wantsOf(job),
    has: (frame) => kept.has(frame),
    async add(engine, drawn) {
      const file = await folder.getFileHandle(nameOf(job, engine.frame), { create: true });
      // A writable is swapped in when it closes: a frame is there whole or not at all.
      const writable = await file.createWritable();
      const bytes = await bytesOf(job, engine, drawn);
      await writable.write(bytes);
      await writable.close();
      await kept.put(engine.frame, bytes, true);
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
