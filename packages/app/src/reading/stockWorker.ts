import { checkPictureSize } from '@vast-swarm/core/stock/read/pictureSize';
import { bvhOf, motionTable } from '@vast-swarm/core/formats';
import { reportProgress } from '@vast-swarm/core/progress';
import {
  peaksOf,
  readStock,
  secondsOf,
  travelling,
  unzip,
  wordsOf,
  type LayOut,
  type Motion,
  type Peaks,
  type Sound,
  type StockData,
  type Zipped,
} from '@vast-swarm/core/stock';
import { transfer } from 'comlink';
import { exposeWorker } from '../workers/exposeWorker';
import { encode } from 'fast-png';
import { strToU8, zipSync } from 'fflate';
import { aboutStock } from './about';
import { sha256 } from './sha256';
import { WAVE } from './wave';

/** A file as it was read, and how it is kept. */
export interface ReadFile {
  file: string;
  bytes: Uint8Array;
  data: StockData;
  hash: string;
  /** In words, for the stock view. */
  about: string;
  /** Of a sound: its waveform in WAVE stretches. */
  wave: Peaks | null;
}

export interface StockWorker {
  /** @throws Error in words for the artist where it cannot be unpacked */
  unzip: (bytes: ArrayBuffer, progress: (part: number) => void) => Zipped;
  /** @throws Error in words for the artist where the file cannot be taken */
  read: (name: string, bytes: ArrayBuffer, progress: (part: number) => void) => Promise<ReadFile>;
  /** @throws Error in words for the artist where they cannot be laid out */
  words: LayOut;
  /** A motion as a file, and what its name ends in; BVH has one performer a file, so that several are a zip. */
  motionFile: (
    name: string,
    motion: Motion,
    form: 'csv' | 'bvh',
  ) => Promise<{ blob: Blob; ending: string }>;
}

/** Pictures of other kinds are kept as PNG, so that every machine reads the same pixels. */
async function asPng(name: string, bytes: Uint8Array<ArrayBuffer>): Promise<[string, Uint8Array]> {
  if (!/\.(jpe?g|webp)$/i.test(name)) return [name, bytes];
  const image = await createImageBitmap(new Blob([bytes])).catch(() => {
    throw new Error(`${name}: the picture cannot be read.`);
  });
  const { width, height } = image;
  checkPictureSize(name, width, height);
  const context = new OffscreenCanvas(width, height).getContext('2d')!;
  context.drawImage(image, 0, 0);
  const { data } = context.getImageData(0, 0, width, height);
  reportProgress(name, 0, data.length / (10 * SPEED));
  const png = encode({ width, height, data: new Uint8Array(data.buffer), channels: 4, depth: 8 });
  return [name.replace(/\.[a-z]+$/i, '.png'), png];
}

/** Sounds and clips can be long: where memory can be shared, nobody who gets them has to copy them. */
function shared(data: StockData): StockData {
  if (!crossOriginIsolated) return data;
  if (data.type === 'clip') {
    const { sound, file } = data;
    return {
      ...data,
      ...(sound ? { sound: shared(sound) as Sound } : {}),
      ...(file ? { file: { ...file, bytes: sharedBytes(file.bytes) } } : {}),
    };
  }
  if (data.type !== 'sound') return data;
  const channels = data.channels.map((channel) => {
    const copy = new Int16Array(new SharedArrayBuffer(channel.byteLength));
    copy.set(channel);
    return copy;
  });
  return { ...data, channels };
}

function sharedBytes(bytes: Uint8Array): Uint8Array {
  const copy = new Uint8Array(new SharedArrayBuffer(bytes.byteLength));
  copy.set(bytes);
  return copy;
}

/** Bytes of a file a second that are read on a slow machine at least. */
const SPEED = 2e6;

/** Hears how far it is with what it was asked for. */
let heard: (part: number) => void = () => undefined;

const worker: StockWorker = {
  words: wordsOf,
  unzip(bytes, progress) {
    heard = progress;
    const files = unzip(new Uint8Array(bytes));
    return transfer(
      files,
      Object.values(files).map((f) => f.buffer),
    );
  },
  motionFile(name, motion, form) {
    const { performers, times } = motion;
    if (form === 'csv') {
      const blob = new Blob([...motionTable(motion)], { type: 'text/csv' });
      return Promise.resolve({ blob, ending: 'csv' });
    }
    const files = performers.map((p) => [...bvhOf(p, times)].join(''));
    if (files.length === 1) {
      return Promise.resolve({ blob: new Blob(files, { type: 'text/plain' }), ending: 'bvh' });
    }
    const entries = files.map((text, i) => {
      const file = `${name} ${performers[i]!.name}.bvh`;
      return [file.replace(/[^\p{L}\p{N} .-]/gu, '-'), strToU8(text)] as const;
    });
    const zip = zipSync(Object.fromEntries(entries));
    return Promise.resolve({ blob: new Blob([zip]), ending: 'zip' });
  },
  async read(name, bytes, progress) {
    heard = progress;
    // Readers that are not ours say nothing on their way.
    reportProgress(name, 0, bytes.byteLength / SPEED);
    const [file, kept] = await asPng(name, new Uint8Array(bytes));
    const data = await readStock(file, kept, progress);
    const about = aboutStock(data);
    const wave = data.type === 'sound' ? peaksOf(data, 0, secondsOf(data), WAVE) : null;
    return {
      file,
      bytes: kept,
      data: travelling(shared(data)),
      hash: await sha256(kept),
      about,
      wave,
    };
  },
};
exposeWorker(worker, (what, part) => {
  if (what !== '') heard(part);
});
