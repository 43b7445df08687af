import { checkPictureSize } from '@vast-swarm/core/stock/read/picture';
import { readStock, type StockData } from '@vast-swarm/core';
import { encode } from 'fast-png';
import { aboutStock } from './about';

export interface ToStock {
  name: string;
  bytes: ArrayBuffer;
}

export type FromStock =
  | { type: 'progress'; part: number }
  | { type: 'read'; file: string; bytes: Uint8Array; data: StockData; hash: string; about: string }
  | { type: 'failed'; message: string };

const send = (message: FromStock): void => {
  postMessage(message);
};

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
  const png = encode({ width, height, data: new Uint8Array(data.buffer), channels: 4, depth: 8 });
  return [name.replace(/\.[a-z]+$/i, '.png'), png];
}

async function hashOf(bytes: Uint8Array): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes.slice()));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}

async function take({ name, bytes }: ToStock): Promise<void> {
  try {
    const [file, kept] = await asPng(name, new Uint8Array(bytes));
    const data = await readStock(file, kept, (part) => {
      send({ type: 'progress', part });
    });
    send({
      type: 'read',
      file,
      bytes: kept,
      data,
      hash: await hashOf(kept),
      about: aboutStock(data),
    });
  } catch (error) {
    send({ type: 'failed', message: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = ({ data }: MessageEvent<ToStock>) => void take(data);
