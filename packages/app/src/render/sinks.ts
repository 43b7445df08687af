import { strToU8, Zip, ZipPassThrough } from 'fflate';
import { pieceText } from '@vast-swarm/core';
import { encodePng } from '@vast-swarm/cpu';
import type { Job } from './messages';
import type { Sink } from './sink';
import { videoSink } from './videoSink';

function fileName(number: number): string {
  return `frame_${String(number).padStart(4, '0')}.png`;
}

/** Numbered frames and the piece itself, stored without a second compression. */
function zipSink({ piece }: Job): Sink {
  const parts: Blob[] = [];
  let failure: Error | null = null;
  const zip = new Zip((error, chunk) => {
    if (error) failure = error;
    else parts.push(new Blob([chunk]));
  });
  const put = (name: string, bytes: Uint8Array): void => {
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    entry.push(bytes, true);
    if (failure) throw failure;
  };
  return {
    add(frame, number) {
      put(fileName(number), encodePng(frame));
      return Promise.resolve();
    },
    finish() {
      put('piece.swarm.json', strToU8(pieceText(piece)));
      zip.end();
      return Promise.resolve(new Blob(parts, { type: 'application/zip' }));
    },
    cancel: () => Promise.resolve(),
  };
}

function folderSink({ folder }: Job): Sink {
  if (!folder) throw new Error('No folder was chosen.');
  return {
    async add(frame, number) {
      const file = await folder.getFileHandle(fileName(number), { create: true });
      // A writable is swapped in when it closes: a frame is there whole or not at all.
      const writable = await file.createWritable();
      await writable.write(encodePng(frame));
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
  }
}
