import { strToU8, Zip, ZipPassThrough } from 'fflate';
import {
  BufferTarget,
  Mp4OutputFormat,
  Output,
  Quality,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
} from 'mediabunny';
import { pieceText } from '@vast-swarm/core';
import { encodePng, type Frame } from '@vast-swarm/cpu';
import type { Job } from './messages';

/** Where frames go. */
export interface Sink {
  add(frame: Frame, number: number): Promise<void>;
  /** The finished file; null where frames went into a folder. */
  finish(): Promise<Blob | null>;
  cancel(): Promise<void>;
}

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

async function videoSink({ piece, width, height, format, first }: Job): Promise<Sink> {
  const mp4 = format === 'mp4';
  if (mp4 && (width % 2 || height % 2)) {
    throw new Error('MP4 video needs an even width and height. Change the size, or choose WebM.');
  }
  const target = new BufferTarget();
  const output = new Output({
    format: mp4 ? new Mp4OutputFormat() : new WebMOutputFormat(),
    target,
  });
  const source = new VideoSampleSource({
    codec: mp4 ? 'avc' : 'vp9',
    quality: new Quality('very-high'),
  });
  output.addVideoTrack(source, { frameRate: piece.frame.rate });
  await output.start();
  const duration = 1 / piece.frame.rate;
  return {
    async add({ pixels }, number) {
      const timestamp = (number - first) * duration;
      const shape = { codedWidth: width, codedHeight: height, timestamp, duration };
      const sample = new VideoSample(pixels, { format: 'RGBX', ...shape });
      await source.add(sample);
      sample.close();
    },
    async finish() {
      await output.finalize();
      return new Blob([target.buffer!], { type: mp4 ? 'video/mp4' : 'video/webm' });
    },
    cancel: () => output.cancel(),
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
